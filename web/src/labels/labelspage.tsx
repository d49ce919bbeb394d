import { type Label, labelRoutes } from "@yosegi/contract";
import styled from "styled-components";
import { type Pages, Unanswered, usePress } from "../api/index.ts";
import { BuildsNav } from "../nav/index.ts";
import {
  Actions,
  AskButton,
  Button,
  color,
  EmptyPage,
  Page,
  Section,
  ShowMore,
  Sub,
  sayDone,
  TextField,
  useAddress,
  useFormat,
} from "../ui/index.ts";
import { useLabels, usePrintedLabels } from "./queries.ts";
import { copiesOf } from "./words.ts";

/** The label tray: the stand-in for a label printer. */
export function LabelsPage() {
  const format = useFormat();
  const search = useAddress().get("search");
  const { data, error: unread } = useLabels();
  const printed = usePrintedLabels(search);
  const error = unread ?? printed.error;
  const print = usePress(labelRoutes.markPrinted, () => sayDone("Labels marked as printed."));
  const remove = usePress(labelRoutes.removeLabels, () => sayDone("Labels deleted."));
  if (!data || !printed.data) return <Unanswered error={error} shape="table" />;
  const waiting = data.labels;
  const ids = waiting.map((label) => label.id);
  const { copies } = data.waiting;
  return (
    <>
      <BuildsNav />
      {data.waiting.labels === 0 && printed.data.total === 0 && search === "" ? (
        <EmptyPage title="No labels yet">
          Finish a build, then press “Labels” at its cost sheet: one for each unit, with its code to scan.
        </EmptyPage>
      ) : (
        <Page>
          <h1>
            {copies === 0 ? "No labels to print" : `${format.count(copies, "label", "labels")} to print`}
          </h1>
          <Sub>
            24 to an A4 sheet, 70 by 37 mm each.
            {waiting.length < data.waiting.labels &&
              ` The first ${format.count(copiesOf(waiting), "label", "labels")} are shown and printed; the others follow once these are marked as printed.`}
          </Sub>
          {waiting.length > 0 && (
            <Actions style={{ marginTop: 0 }}>
              <Button look="main" onPress={() => window.open("/api/label-sheets", "_blank", "noopener")}>
                Open the PDF
              </Button>
              <Button isPending={print.busy} onPress={() => void print.run({ body: { labels: ids } })}>
                Mark as printed
              </Button>
              <AskButton
                isPending={remove.busy}
                question={{
                  title: `Remove ${format.count(copiesOf(waiting), "label", "labels")}?`,
                  text: "They are not printed. Labels can be made again from their item or build.",
                  yes: "Remove",
                }}
                onYes={() => void remove.run({ body: { labels: ids } })}
              >
                Remove them
              </AskButton>
            </Actions>
          )}
          <Faces labels={waiting} name="Labels to be printed" />
          {(printed.data.total > 0 || search !== "") && <Printed {...printed.data} />}
        </Page>
      )}
    </>
  );
}

function Printed({ rows, total, onMore }: Pages<typeof labelRoutes.printedLabels, Label>) {
  const address = useAddress();
  return (
    <Section title="Printed before">
      <TextField
        label="Filter printed labels"
        hideLabel
        placeholder="Filter printed labels"
        width="280px"
        value={address.get("search")}
        onChange={(text) => address.set("search", text)}
      />
      <Faces labels={rows} name="Printed labels" />
      {rows.length === 0 && <p>No labels match.</p>}
      <ShowMore listed={rows.length} total={total} onMore={onMore} />
    </Section>
  );
}

function Faces({ labels, name }: { labels: Label[]; name: string }) {
  const format = useFormat();
  if (labels.length === 0) return null;
  return (
    <List aria-label={name}>
      {labels.map((label) => (
        <Face key={label.id} $beside={label.shape === "qr"}>
          <div>
            {label.lines.map((line, i) =>
              i === 0 ? <b key={line}>{line}</b> : <span key={line}>{line}</span>,
            )}
          </div>
          <img
            alt={`${label.shape === "qr" ? "QR code" : "Code 128"} of ${label.code}`}
            src={`data:image/svg+xml;utf8,${encodeURIComponent(label.svg)}`}
          />
          <small>
            {label.copies > 1 ? `${format.count(label.copies, "copy", "copies")} · ` : ""}
            {label.printed
              ? `printed ${format.moment(label.printed.moment)} by ${label.printed.person}`
              : label.document}
          </small>
        </Face>
      ))}
    </List>
  );
}

const List = styled.ul`
  list-style: none;
  margin: 14px 0 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 12px;
`;

const Face = styled.li<{ $beside: boolean }>`
  background: ${color.sheet};
  border: 1px solid ${color.line};
  padding: 12px 14px;
  display: grid;
  grid-template-columns: ${({ $beside }) => ($beside ? "1fr auto" : "1fr")};
  gap: 8px;
  b,
  span {
    display: block;
  }
  span {
    font-size: 13.5px;
    color: ${color.ink2};
  }
  img {
    background: white;
    padding: 6px;
    height: ${({ $beside }) => ($beside ? "74px" : "52px")};
    max-width: 100%;
  }
  small {
    grid-column: 1 / -1;
    color: ${color.ink2};
    font-size: 13px;
  }
`;
