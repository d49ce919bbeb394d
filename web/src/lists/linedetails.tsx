import { Plus, X } from "lucide-react";
import styled from "styled-components";
import { ItemField, QuantityField, StoreField } from "../fields/index.ts";
import { DRAWN_CHOICES } from "../items/index.ts";
import { useWorking } from "../people/index.ts";
import { AmountField, Button, Checkbox, Row, Select, TextField } from "../ui/index.ts";
import type { DraftLine } from "./listdraft.ts";

interface LineDetailsProps {
  line: DraftLine;
  name: (field: string) => string;
  product: number;
  set: (what: string, to: Partial<DraftLine>) => void;
}

const HOME = "–";

export function LineDetails({ line, name, product, set }: LineDetailsProps) {
  const { people } = useWorking();
  const work = line.part?.kind === "service";
  return (
    <Details>
      <Row>
        <Checkbox isSelected={line.oncePerBuild} onChange={(oncePerBuild) => set("", { oncePerBuild })}>
          Once per build
        </Checkbox>
        <Checkbox isSelected={line.optional} onChange={(optional) => set("", { optional })}>
          Optional: builds choose it
        </Checkbox>
      </Row>
      <Row>
        {!work && (
          <>
            <Select
              label="Drawn"
              width="130px"
              value={line.drawnAt}
              options={DRAWN_CHOICES}
              onChange={(drawnAt) => set("", { drawnAt })}
            />
            <StoreField
              label="Taken from"
              name={name("store")}
              width="160px"
              value={line.store === "" ? HOME : line.store}
              first={{ value: HOME, label: "Its home store" }}
              onChange={(store) => set("", { store: store === HOME ? "" : store })}
            />
            <AmountField
              label="Recovery share"
              name={name("share")}
              width="150px"
              unit="%"
              value={line.share}
              onChange={(share) => set("share", { share })}
            />
          </>
        )}
        {work && (
          <Select
            label="Done by"
            name={name("person")}
            width="190px"
            value={line.person === "" ? HOME : line.person}
            options={[
              { value: HOME, label: "Anybody" },
              ...people.map((p) => ({ value: p.name, label: p.name })),
            ]}
            onChange={(person) => set("", { person: person === HOME ? "" : person })}
          />
        )}
        <TextField
          label="Note"
          name={name("note")}
          width="260px"
          value={line.note}
          onChange={(note) => set("note", { note })}
        />
      </Row>
      {!work && <Substitutes line={line} name={name} product={product} set={set} />}
    </Details>
  );
}

function Substitutes({ line, name, product, set }: LineDetailsProps) {
  const change = (at: number, to: Partial<DraftLine["substitutes"][number]>, what = "") =>
    set(what, { substitutes: line.substitutes.map((s, i) => (i === at ? { ...s, ...to } : s)) });
  return (
    <>
      {line.substitutes.map((substitute, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a substitute may not be chosen yet
        <Row key={i}>
          <ItemField
            label={`Substitute ${i + 1}`}
            width="290px"
            choosing="part"
            product={product}
            value={substitute.item}
            onChange={(item) => change(i, { item })}
            name={name(`substitutes.${i}.item`)}
          />
          <QuantityField
            packs={substitute.item?.packs ?? []}
            measuredIn={substitute.item?.unit ?? ""}
            label="So many for one"
            width="150px"
            value={substitute.quantity}
            onChange={(quantity) => change(i, { quantity }, `substitute ${i}`)}
            name={name(`substitutes.${i}.quantity`)}
          />
          <Button
            look="icon"
            aria-label={`Remove substitute ${i + 1}`}
            onPress={() => set("", { substitutes: line.substitutes.filter((_, at) => at !== i) })}
          >
            <X />
          </Button>
        </Row>
      ))}
      <div>
        <Button
          look="link"
          onPress={() => set("", { substitutes: [...line.substitutes, { item: null, quantity: "1" }] })}
        >
          <Plus /> A substitute
        </Button>
      </div>
    </>
  );
}

const Details = styled.div`
  display: grid;
  gap: 10px;
  padding: 2px 0 12px;
`;
