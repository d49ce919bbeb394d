import {
  type BuildSheet,
  buildRoutes,
  type FinishBody,
  type FinishPreview,
  finishBody,
} from "@yosegi/contract";
import { Plus, X } from "lucide-react";
import { type ReactNode, useState } from "react";
import { useWatch } from "react-hook-form";
import styled from "styled-components";
import { Refused } from "../api/index.ts";
import { fieldsOf, ItemField } from "../fields/index.ts";
import { FormOf, type FormState, Save, useCommandForm, useErrorOf, useSchemaForm } from "../forms/index.ts";
import {
  Actions,
  AnswerPart,
  Button,
  CostBar,
  Notice,
  oldAnswer,
  Row,
  sayDone,
  useFormat,
} from "../ui/index.ts";
import { bodyOf, type FinishDraft, fitted, newDraft, PLAIN, serialsNeeded } from "./finishdraft.ts";
import type { BuildLine } from "./linecells.tsx";
import { LineDialog } from "./linedialog.tsx";
import { PartsUsed } from "./partsused.tsx";
import { useFinishPreview } from "./queries.ts";
import { leavesRest } from "./rest.ts";
import { SerialEntry } from "./serialentry.tsx";
import { TooLittle } from "./toolittle.tsx";
import { WorkRows } from "./workrows.tsx";

const In = fieldsOf<FinishDraft>();

/** Finishing: what came out, what was really used of each part, what it cost; calculated while typing, recorded on one press. */
export function FinishForm({ build, steps }: { build: BuildSheet; steps: ReactNode }) {
  const format = useFormat();
  const { product } = build;
  const form = useCommandForm({
    route: buildRoutes.finishBuild,
    params: { id: build.id },
    begin: newDraft(build, format.settings.today),
    keptAs: `finish ${build.id}`,
    body: (draft: FinishDraft) => sentOf(draft, build),
    done: (_, { good }: FinishDraft) =>
      sayDone(`${format.amount(good, product.unit)} of ${product.code} are in stock.`),
  });
  return (
    <FormOf form={form}>
      <FinishFields build={build} form={form} save="Finish" steps={steps} />
    </FormOf>
  );
}

interface FinishLaterProps {
  build: BuildSheet;
  begin: FinishDraft;
  /** What is to be recorded, and as it was typed. */
  onDone: (body: FinishBody, draft: FinishDraft) => void;
}

/** The same for a build that is finished with a shipment: what is typed is recorded together with that. */
export function FinishLaterForm({ build, begin, onDone }: FinishLaterProps) {
  const form: FormState<FinishDraft> = useSchemaForm({
    schema: finishBody,
    begin,
    body: (draft: FinishDraft) => sentOf(draft, build),
    send: (body) => onDone(body as FinishBody, form.methods.getValues()),
  });
  return (
    <FormOf form={form}>
      <FinishFields build={build} form={form} save="Take over" steps={null} />
    </FormOf>
  );
}

/** What is sent: as many serial numbers as good units. */
function sentOf(draft: FinishDraft, build: BuildSheet): FinishBody {
  const body = bodyOf(draft, build);
  const count = serialsNeeded(build, draft.good);
  return count === null ? body : { ...body, serials: fitted(draft.serials, count) };
}

interface FinishFieldsProps {
  build: BuildSheet;
  form: FormState<FinishDraft>;
  save: string;
  /** Further steps beside the button. */
  steps: ReactNode;
}

function FinishFields({ build, form, save, steps }: FinishFieldsProps) {
  const format = useFormat();
  const [more, setMore] = useState<BuildLine | null>(null);
  const [known, setKnown] = useState<FinishPreview | undefined>(undefined);
  const planned = (line: number) => known?.lines.find((l) => l.line === line)?.planned ?? "";
  const draft = useWatch({ control: form.methods.control }) as FinishDraft;
  const setDraft = (next: FinishDraft) => {
    for (const [name, value] of Object.entries(next))
      if (value !== draft[name as keyof FinishDraft]) form.methods.setValue(name as keyof FinishDraft, value);
    form.touch();
  };
  const preview = useFinishPreview(build.id, bodyOf(draft, build));
  if (preview.data && preview.data !== known) setKnown(preview.data);
  const refused = preview.error instanceof Refused ? preview.error.answer.fields : [];
  // What the preview finds wrong is said while typing; what only recording finds, at the field until it is changed.
  const live: Record<string, string> = Object.fromEntries(
    [...preview.unread, ...refused].map((f) => [f.field, f.message]),
  );
  const recorded = useErrorOf(form);
  const faultOf = (path: string) => live[path] ?? recorded(path);
  const calculated = preview.readable && !preview.error;
  const cost = calculated ? preview.data?.cost : null;
  const shorts = calculated ? (preview.data?.shorts ?? []) : [];
  const errorOf = (path: string, item: number): string | undefined => {
    const short = shorts.find((s) => s.item === item);
    return (
      faultOf(`${path}.used`) ??
      faultOf(`${path}.scrapped`) ??
      faultOf(`${path}.reason`) ??
      (short ? `${format.amount(short.there, short.unit)} on record` : undefined)
    );
  };
  const serials = serialsNeeded(build, draft.good);
  return (
    <>
      <PartsUsed
        build={build}
        draft={draft}
        preview={preview.data}
        onChange={setDraft}
        errorOf={errorOf}
        onMore={setMore}
      />
      <AddPart onAdd={(extra) => setDraft({ ...draft, extra: [...draft.extra, extra] })} />
      <Counts build={build} draft={draft} onChange={setDraft} faultOf={faultOf} />
      {shorts.length > 0 && preview.data && (
        <TooLittle build={build} draft={draft} preview={preview.data} onChange={setDraft} />
      )}
      <Outcome build={build} rejects={!["0", ""].includes(draft.rejected)} errors={live} />
      {serials !== null && serials > 0 && (
        <SerialEntry
          build={build}
          draft={draft}
          count={serials}
          onChange={setDraft}
          tried={form.refusals > 0}
          error={recorded("serials")}
        />
      )}
      <WorkRows build={build} draft={draft} onChange={setDraft} errorOf={faultOf} planned={planned} />
      {leavesRest(draft.good, draft.rejected, build.open) && <Rest build={build} closes={draft.closeRest} />}
      {calculated && preview.data && <Warnings preview={preview.data} />}
      <Actions>
        <Save>
          {save} {/^\d/.test(draft.good) ? format.amount(draft.good) : ""}
        </Save>
        {steps}
        {cost && (
          <Total $old={preview.old}>
            {format.money(cost.total)}
            {cost.each
              ? ` · ${format.unitCost(cost.each)} each for ${format.amount(draft.good)}`
              : " · nothing usable came out"}
          </Total>
        )}
      </Actions>
      {cost && (
        <AnswerPart $old={preview.old}>
          <CostBar cost={shares(cost)} />
        </AnswerPart>
      )}
      <LineDialog
        line={more}
        draft={draft}
        planned={more ? planned(more.line) : ""}
        onChange={setDraft}
        onClose={() => setMore(null)}
      />
    </>
  );
}

/** What came out, where it goes, and when it was done. */
function Outcome({
  build,
  rejects,
  errors,
}: {
  build: BuildSheet;
  /** Whether some are rejected, which wants a reason. */
  rejects: boolean;
  errors: Record<string, string>;
}) {
  const format = useFormat();
  const { product } = build;
  const measure = { packs: product.packs, measuredIn: product.unit };
  return (
    <Row style={{ marginTop: 16 }}>
      <In.Quantity
        {...measure}
        label="Good"
        name="good"
        width="140px"
        unit={`of ${format.amount(build.open)}`}
        error={errors.good}
      />
      <In.Quantity {...measure} label="Rejected" name="rejected" width="110px" error={errors.rejected} />
      {rejects && <In.Text label="Why rejected" name="reason" width="190px" />}
      {product.tracking === "lot" && <In.Text label="Lot" name="lot" width="140px" />}
      {product.tracking !== "none" && (
        <>
          <In.Day label="Use by" name="expiry" />
          <In.Day label="Made on" name="madeOn" />
        </>
      )}
      <In.Store label="Store" name="store" width="140px" />
      <In.Text label="Bin" name="bin" width="90px" />
      <In.Day label="Done on" name="day" width="190px" />
    </Row>
  );
}

/** What becomes of the rest where this finishes a part of the build. */
function Rest({ build, closes }: { build: BuildSheet; closes: boolean }) {
  const benched = build.lines.some((line) => line.bench !== "0");
  return (
    <>
      <div>
        <In.Tick name="closeRest">{`Close ${build.number} without making the rest`}</In.Tick>
      </div>
      {benched && !closes && (
        <div>
          <In.Tick name="returnToStock">Return leftover parts to stock</In.Tick>
        </div>
      )}
    </>
  );
}

/** What the cost is made of; what there is none of is left out. */
const shares = (cost: NonNullable<FinishPreview["cost"]>): Record<string, string> => ({
  parts: cost.parts,
  ...(cost.work !== "0.0000" && { work: cost.work }),
  ...(cost.overhead !== "0.0000" && { overhead: cost.overhead }),
  ...(cost.extra !== "0.0000" && { extra: cost.extra }),
  ...(cost.subcontractor !== "0.0000" && { subcontractor: cost.subcontractor }),
});

/** A part that is not on the list. */
function AddPart({ onAdd }: { onAdd: (extra: FinishDraft["extra"][number]) => void }) {
  const [adding, setAdding] = useState(false);
  return (
    <Row style={{ marginTop: 8, alignItems: "flex-end" }}>
      {adding ? (
        <>
          <ItemField
            autoFocus
            label="Extra part"
            width="320px"
            choosing="part"
            value={null}
            onChange={(item) => {
              if (!item) return;
              onAdd({ ...PLAIN, item, insteadOf: null, used: "1" });
              setAdding(false);
            }}
          />
          <Button onPress={() => setAdding(false)}>Cancel</Button>
        </>
      ) : (
        <Button onPress={() => setAdding(true)}>
          <Plus /> Add part
        </Button>
      )}
    </Row>
  );
}

interface CountsProps {
  build: BuildSheet;
  draft: FinishDraft;
  onChange: (draft: FinishDraft) => void;
  faultOf: (path: string) => string | undefined;
}

const COUNT_FIELDS = ["there", "store", "bin", "newBin", "lot", "serial", "reason", "cost", "item"];

/** What was counted and is put right with the finish. */
function Counts({ build, draft, onChange, faultOf }: CountsProps) {
  const format = useFormat();
  return draft.counts.map((count, i) => {
    const line = build.lines.find((l) => l.item.id === count.item);
    const [wrong] = COUNT_FIELDS.map((field) => faultOf(`counts.${i}.${field}`)).filter(Boolean);
    return (
      <Notice key={`${count.item} ${count.store} ${count.bin} ${count.lot}${count.serial}`} role="status">
        <Row style={{ alignItems: "center" }}>
          <span>
            Counted: <b>{format.amount(count.there, line?.unit ?? "")}</b> of {line?.item.name} in{" "}
            {count.store} {count.bin} {count.lot || count.serial} · {count.reason}
            {wrong && <b> {wrong}</b>}
          </span>
          <Button
            look="icon"
            aria-label={`Remove the count of ${line?.item.code}`}
            onPress={() => onChange({ ...draft, counts: draft.counts.filter((c) => c !== count) })}
          >
            <X />
          </Button>
        </Row>
      </Notice>
    );
  });
}

/** What is worth knowing before it is recorded. */
function Warnings({ preview }: { preview: FinishPreview }) {
  const format = useFormat();
  if (preview.noCost.length === 0 && preview.low.length === 0) return null;
  return (
    <Notice role="status">
      {preview.noCost.length > 0 && <div>No cost on file for {format.list(preview.noCost)}.</div>}
      {preview.low.length > 0 && (
        <div>
          Below the reorder level afterwards:{" "}
          {format.list(
            preview.low.map(
              (part) =>
                `${part.name} (${format.amount(part.free, part.unit)} free, level ${format.amount(part.level)})`,
            ),
          )}
          .
        </div>
      )}
    </Notice>
  );
}

const Total = styled.b<{ $old: boolean }>`
  ${oldAnswer}
  margin-left: auto;
  font: 600 18px/1.2 "Bricolage Grotesque Variable", sans-serif;
`;
