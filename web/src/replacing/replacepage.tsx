import {
  quantity as quantitySchema,
  type ReplacementPreview,
  type ReplacementRow,
  replacingRoutes,
} from "@yosegi/contract";
import { Undo2 } from "lucide-react";
import { useState } from "react";
import { Failure, Unanswered, useCommand } from "../api/index.ts";
import { ItemField, QuantityField, useItem } from "../fields/index.ts";
import { CatalogNav } from "../nav/index.ts";
import {
  Actions,
  AskButton,
  Button,
  Checkbox,
  Named,
  Notice,
  Page,
  Row,
  Section,
  SheetTable,
  Short,
  Sub,
  sayDone,
  useAddress,
  useFormat,
} from "../ui/index.ts";
import { useReplacement, useReplacements } from "./queries.ts";

/** Replaces a part everywhere: every list and kit before and after, some left out, applied and undone in one step. */
export function ReplacePage() {
  const address = useAddress();
  const part = useItem(Number(address.get("part")));
  const successor = useItem(Number(address.get("successor")));
  const [per, of] = [address.get("per") || "1", address.get("of") || "1"];
  const valid = [per, of].every((text) => quantitySchema.safeParse(text).success);
  const ready = part.data && successor.data && valid;
  const body = { part: part.data?.id ?? 0, successor: successor.data?.id ?? 0, per, of };
  const preview = useReplacement(body, Boolean(ready));
  return (
    <>
      <CatalogNav />
      <Page>
        <h1>Replace a part everywhere</h1>
        <Sub>
          Each list gets a new revision that is used at once; what was built before stays as it was. The whole
          step can be undone while nothing was built from it.
        </Sub>
        <Row>
          <ItemField
            label="Part"
            width="280px"
            choosing="any"
            value={part.data ?? null}
            onChange={(item) => address.set("part", item ? String(item.id) : "")}
          />
          <ItemField
            label="Its successor"
            width="280px"
            choosing="part"
            value={successor.data ?? null}
            onChange={(item) => address.set("successor", item ? String(item.id) : "")}
          />
          <QuantityField
            packs={successor.data?.packs ?? []}
            label="Use"
            width="130px"
            unit={successor.data?.unit}
            value={per}
            onChange={(text) => address.set("per", text === "1" ? "" : text)}
          />
          <QuantityField
            packs={part.data?.packs ?? []}
            label="in place of"
            width="130px"
            unit={part.data?.unit}
            value={of}
            onChange={(text) => address.set("of", text === "1" ? "" : text)}
          />
        </Row>
        {ready && preview.error && <Failure error={preview.error} />}
        {ready && preview.data && !preview.error && (
          <Affected key={JSON.stringify(body)} body={body} found={preview.data} />
        )}
        <Earlier />
      </Page>
    </>
  );
}

interface AffectedProps {
  body: { part: number; successor: number; per: string; of: string };
  found: ReplacementPreview;
}

function Affected({ body, found }: AffectedProps) {
  const format = useFormat();
  const [out, setOut] = useState<ReadonlySet<string>>(new Set());
  const replace = useCommand(replacingRoutes.replacePart, (done) =>
    sayDone(`${done.part} is replaced by ${done.successor} in ${format.count(done.lists, "list", "lists")}.`),
  );
  const toggle = (key: string, on: boolean) => {
    const next = new Set(out);
    if (on) next.delete(key);
    else next.add(key);
    setOut(next);
  };
  const lists = found.lists.filter((l) => l.problem === null && !out.has(`list ${l.list}`));
  const kits = found.kits.filter((k) => k.problem === null && !out.has(`kit ${k.kit.id}`));
  if (found.lists.length + found.kits.length === 0)
    return <Sub style={{ marginTop: 18 }}>Not used in any parts list or kit.</Sub>;
  const rows = [
    ...found.lists.map((l) => ({
      key: `list ${l.list}`,
      item: l.product,
      what: l.name === "Main" ? "parts list" : `parts list ${l.name}`,
      note: l.warning,
      cost: `${format.unitCost(l.costBefore)} → ${format.unitCost(l.costAfter)}`,
      before: l.before,
      after: l.after,
      problem: l.problem,
    })),
    ...found.kits.map((k) => ({
      key: `kit ${k.kit.id}`,
      item: k.kit,
      what: "kit",
      note: null,
      cost: "",
      before: k.before,
      after: k.after,
      problem: k.problem,
    })),
  ];
  return (
    <>
      <SheetTable
        label="What changes"
        rows={rows}
        rowId={(row) => row.key}
        columns={[
          {
            header: "",
            cell: (row) =>
              row.problem === null && (
                <Checkbox
                  aria-label={`Replace in ${row.item.code}`}
                  isSelected={!out.has(row.key)}
                  onChange={(on) => toggle(row.key, on)}
                />
              ),
          },
          {
            header: "Where",
            cell: (row) => (
              <>
                <Named name={row.item.name} to={`/catalog/${row.item.id}`} more={[row.item.code, row.what]} />
                {row.note && <small>{row.note}</small>}
              </>
            ),
          },
          { header: "Before", cell: (row) => row.before.join(", ") },
          {
            header: "After",
            cell: (row) => (row.problem ? <Short>{row.problem}</Short> : row.after.join(", ")),
          },
          { header: "Cost of one", end: true, cell: (row) => row.cost },
        ]}
      />
      {replace.refusal && <Notice>{replace.refusal.message}</Notice>}
      <Actions>
        <Button
          look="main"
          isPending={replace.busy}
          isDisabled={lists.length + kits.length === 0}
          onPress={() =>
            void replace.run({
              body: { ...body, lists: lists.map((l) => l.list), kits: kits.map((k) => k.kit.id) },
            })
          }
        >
          Replace in{" "}
          {format.list([
            ...(lists.length > 0 ? [format.count(lists.length, "list", "lists")] : []),
            ...(kits.length > 0 ? [format.count(kits.length, "kit", "kits")] : []),
          ]) || "nothing"}
        </Button>
      </Actions>
    </>
  );
}

/** What was replaced before, and the way back. */
function Earlier() {
  const format = useFormat();
  const { data, error } = useReplacements();
  const undo = useCommand(replacingRoutes.undoReplacement, (row) =>
    sayDone(`${row.part} is back instead of ${row.successor}.`),
  );
  if (!data) return <Unanswered error={error} />;
  if (data.replacements.length === 0) return null;
  return (
    <Section title="Replaced before">
      {undo.refusal && <Notice>{undo.refusal.message}</Notice>}
      <SheetTable
        label="Replaced before"
        rows={data.replacements}
        rowId={(row) => row.id}
        columns={[
          {
            header: "When",
            cell: (row) => (
              <>
                {format.moment(row.moment)}
                <small>{row.person}</small>
              </>
            ),
          },
          { header: "What", cell: (row) => words(row) },
          {
            header: "Where",
            cell: (row) =>
              format.list([
                ...(row.lists > 0 ? [format.count(row.lists, "list", "lists")] : []),
                ...(row.kits > 0 ? [format.count(row.kits, "kit", "kits")] : []),
              ]),
          },
          {
            header: "",
            end: true,
            cell: (row) =>
              row.undone ? (
                `undone by ${row.undone.person}`
              ) : row.blocked ? (
                `can't be undone: ${row.blocked}`
              ) : (
                <AskButton
                  isPending={undo.busy}
                  question={{
                    title: `Put ${row.part} back instead of ${row.successor}?`,
                    text: `${format.count(row.lists, "parts list", "parts lists")} and ${format.count(row.kits, "kit", "kits")} become what they were.`,
                    yes: "Undo",
                  }}
                  onYes={() => void undo.run({ params: { id: row.id } })}
                >
                  <Undo2 /> Undo
                </AskButton>
              ),
          },
        ]}
      />
    </Section>
  );
}

const words = (row: ReplacementRow) =>
  row.per === row.of
    ? `${row.successor} for ${row.part}`
    : `${row.per} ${row.successor} for ${row.of} ${row.part}`;
