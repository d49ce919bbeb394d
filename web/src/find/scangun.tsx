import { useQuery } from "@tanstack/react-query";
import { stockRoutes } from "@yosegi/contract";
import { TAKE_ALL } from "@yosegi/core";
import { X } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { asking } from "../api/index.ts";
import { useStores } from "../fields/index.ts";
import { Button, color, font, NARROW, Row, radius, Select, TextField } from "../ui/index.ts";

/** Types a code like a scanner does: all keys at once, with Enter after them, wherever the focus is not in a field. */
export function typeLikeScanner(code: string): void {
  for (const key of [...code, "Enter"])
    document.body.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true }));
}

/** The scan gun: a stand-in for a barcode scanner. It shows the codes of what is in a bin, and scans them on a press. */
export function ScanGun({ onClose }: { onClose: () => void }) {
  const stores = useStores().data?.stores ?? [];
  const [chosen, setChosen] = useState("");
  const [bin, setBin] = useState("");
  const [typed, setTyped] = useState("");
  const store = stores.find(({ id }) => String(id) === chosen) ?? stores[0];
  const { data } = useQuery({
    ...asking(stockRoutes.binContents, { params: { id: store?.id ?? 0 }, query: { bin } }),
    enabled: store !== undefined && bin !== "",
  });
  const codes = (data?.contents ?? []).flatMap(({ item, barcode, lot, serial }) => [
    { code: barcode || item.code, what: item.name },
    ...(serial || lot ? [{ code: serial || lot, what: `${serial ? "serial" : "lot"} of ${item.code}` }] : []),
  ]);
  const once = [...new Map(codes.map((one) => [one.code, one])).values()];
  return (
    <Panel aria-label="Scan gun">
      <Head>
        <b>Scan gun</b>
        <Button look="icon" aria-label="Put the scan gun away" onPress={onClose}>
          <X />
        </Button>
      </Head>
      <Row>
        <Select
          label="Store"
          width="130px"
          value={store ? String(store.id) : ""}
          options={stores.map(({ id, name }) => ({ value: String(id), label: name }))}
          onChange={(next) => {
            setChosen(next);
            setBin("");
          }}
        />
        <Select
          label="Bin"
          width="110px"
          value={bin}
          options={(store?.bins ?? []).map((code) => ({ value: code, label: code }))}
          onChange={setBin}
        />
      </Row>
      <Codes>
        {bin !== "" && <Code code={bin} what="bin" />}
        {once.map((one) => (
          <Code key={one.code} {...one} />
        ))}
        <Code code={TAKE_ALL} what="all that is needed" />
      </Codes>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          typeLikeScanner(typed.trim());
          setTyped("");
        }}
      >
        <Row style={{ alignItems: "flex-end" }}>
          <TextField label="Any code" width="150px" value={typed} onChange={setTyped} />
          <Button type="submit" isDisabled={typed.trim() === ""}>
            Scan
          </Button>
        </Row>
      </form>
    </Panel>
  );
}

const Code = ({ code, what }: { code: string; what: string }) => (
  <button type="button" onClick={() => typeLikeScanner(code)}>
    <b>{code}</b> <small>{what}</small>
  </button>
);

const Panel = styled.section`
  position: fixed;
  right: 16px;
  bottom: 16px;
  z-index: 15;
  width: 290px;
  max-height: 70vh;
  overflow: auto;
  padding: 10px 14px 14px;
  background: ${color.sheet};
  border: 1px solid ${color.line};
  border-radius: ${radius};
  box-shadow: 0 8px 24px rgb(0 0 0 / 0.25);
  ${NARROW} {
    left: 0;
    right: 0;
    bottom: 0;
    width: auto;
    max-height: 45vh;
  }
`;

const Head = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: center;
`;

const Codes = styled.div`
  display: grid;
  gap: 4px;
  margin: 10px 0;
  button {
    min-height: 40px;
    padding: 4px 10px;
    border: 1px solid ${color.line};
    background: ${color.paper};
    color: ${color.ink};
    font: 15px/1.3 ${font.text};
    text-align: start;
    cursor: pointer;
  }
  small {
    color: ${color.ink2};
  }
`;
