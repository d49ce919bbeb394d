import { useQuery } from "@tanstack/react-query";
import { type ImportRun, importRoutes } from "@yosegi/contract";
import { asking, Unanswered, useCommand } from "../api/index.ts";
import { AskButton, Notice, Section, SheetTable, sayDone, useFormat } from "../ui/index.ts";
import { thingWords } from "./words.ts";

/** Earlier imports, each with a button that undoes it while nothing was done with it. */
export function Earlier() {
  const format = useFormat();
  const { data, error } = useQuery(asking(importRoutes.importRuns, {}));
  const undo = useCommand(importRoutes.undoImport, ({ number, removed, archived, restored }) => {
    const parts = [
      removed > 0 && `${format.count(removed, "item", "items")} removed`,
      archived > 0 && `${format.count(archived, "item", "items")} archived`,
      restored > 0 && `${format.count(restored, "record is", "records are")} as before`,
    ].filter((part) => part !== false);
    sayDone(`${number} is undone${parts.length > 0 ? `: ${format.list(parts)}` : ""}.`);
  });
  if (!data) return <Unanswered error={error} />;
  if (data.imports.length === 0) return null;
  return (
    <Section title="Earlier imports">
      {undo.refusal && <Notice>{undo.refusal.message}</Notice>}
      <SheetTable
        label="Earlier imports"
        rows={data.imports}
        rowId={(run) => run.id}
        columns={[
          { header: "Import", cell: (run) => run.number },
          { header: "When", cell: (run) => `${format.moment(run.moment)}, ${run.person}` },
          { header: "What", cell: (run) => format.list(thingWords(run, format)) },
          {
            header: "",
            end: true,
            cell: (run) =>
              run.undone ? (
                undoneWords(run.undone, format.moment(run.undone.moment))
              ) : (
                <AskButton
                  aria-label={`Undo ${run.number}`}
                  isPending={undo.busy}
                  question={{
                    title: `Undo ${run.number}?`,
                    text: "What it made is removed, what it changed is put back. This works while nothing was done with it.",
                    yes: "Undo import",
                  }}
                  onYes={() => void undo.run({ params: { id: run.id } })}
                >
                  Undo …
                </AskButton>
              ),
          },
        ]}
      />
    </Section>
  );
}

const undoneWords = ({ person }: NonNullable<ImportRun["undone"]>, moment: string) =>
  `undone ${moment} by ${person}`;
