import { type BuildSheet, type FinishPreview, routes } from "@yosegi/contract";
import { Plus, X } from "lucide-react";
import { type ReactNode, useState } from "react";
import styled from "styled-components";
import { Refused, useCommand } from "../api/index.ts";
import { ItemField, QuantityField, StoreField } from "../fields/index.ts";
import {
  Actions,
  AnswerPart,
  Button,
  Checkbox,
  CostBar,
  DateField,
  Form,
  KeptDraft,
  Notice,
  oldAnswer,
  Row,
  sayDone,
  TextField,
  useDraft,
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

/** Finishing: what came out, what was really used of each part, what it cost; calculated while typing, recorded on one press. */
export function FinishForm({ build, steps }: { build: BuildSheet; steps: ReactNode }) {
  const format = useFormat();
  const { product } = build;
  const { draft, change, keptAt, startAgain, forget } = useDraft<FinishDraft>(`finish ${build.id}`, () =>
    newDraft(build, format.settings.today),
  );
  const setDraft = (next: FinishDraft) => change(() => next);
  const [more, setMore] = useState<BuildLine | null>(null);
  const [tried, setTried] = useState(false);
  const set = (to: Partial<FinishDraft>) => change((before) => ({ ...before, ...to }));

  const [known, setKnown] = useState<FinishPreview | undefined>(undefined);
  const planned = (line: number) => known?.lines.find((l) => l.line === line)?.planned ?? "";
  const body = bodyOf(draft, build, planned);
  const preview = useFinishPreview(build.id, body);
  if (preview.data && preview.data !== known) setKnown(preview.data);
  // What is kept of it goes before the build shows it finished: its form begins anew then.
  const finish = useCommand(
    routes.finishBuild,
    () => sayDone(`${format.amount(draft.good, product.unit)} of ${product.code} are in stock.`),
    forget,
  );
  const refused = preview.error instanceof Refused ? preview.error.answer.fields : [];
  // What the preview finds wrong is said while typing; what only recording finds, at the field until it is changed.
  const live: Record<string, string> = Object.fromEntries(
    [...preview.unread, ...refused].map((f) => [f.field, f.message]),
  );
  const calculated = preview.readable && !preview.error;
  const cost = calculated ? preview.data?.cost : null;
  const shorts = calculated ? (preview.data?.shorts ?? []) : [];
  const errorOf = (path: string, item: number): string | undefined => {
    const short = shorts.find((s) => s.item === item);
    return (
      live[`${path}.used`] ??
      live[`${path}.scrapped`] ??
      finish.errors[`${path}.used`] ??
      finish.errors[`${path}.scrapped`] ??
      finish.errors[`${path}.reason`] ??
      (short ? `${format.amount(short.there, short.unit)} there` : undefined)
    );
  };
  const serials = serialsNeeded(build, draft.good);
  const submit = () => {
    setTried(true);
    const sent = serials === null ? body : { ...body, serials: fitted(draft.serials, serials) };
    void finish.run({ params: { id: build.id }, body: sent });
  };

  return (
    <Form keeps refusal={finish.refusal} onSubmit={submit}>
      <KeptDraft at={keptAt} onStartAgain={startAgain} />
      <PartsUsed
        build={build}
        draft={draft}
        preview={preview.data}
        onChange={setDraft}
        errorOf={errorOf}
        onMore={setMore}
      />
      <AddPart onAdd={(extra) => set({ extra: [...draft.extra, extra] })} />
      <Counts build={build} draft={draft} onChange={setDraft} errors={{ ...finish.errors, ...live }} />
      {shorts.length > 0 && preview.data && (
        <TooLittle build={build} draft={draft} preview={preview.data} onChange={setDraft} />
      )}
      <Outcome build={build} draft={draft} set={set} errors={live} />
      {serials !== null && serials > 0 && (
        <>
          <SerialEntry build={build} draft={draft} count={serials} onChange={setDraft} tried={tried} />
          {finish.errors.serials && <Notice>{finish.errors.serials}</Notice>}
        </>
      )}
      <WorkRows
        build={build}
        draft={draft}
        onChange={setDraft}
        errorOf={(field) => live[field] ?? finish.errors[field]}
        planned={planned}
      />
      {leavesRest(draft.good, draft.rejected, build.open) && <Rest build={build} draft={draft} set={set} />}
      {calculated && preview.data && <Warnings preview={preview.data} />}
      <Actions>
        <Button look="main" type="submit" isPending={finish.busy}>
          Finish {/^\d/.test(draft.good) ? format.amount(draft.good) : ""}
        </Button>
        {steps}
        {cost && (
          <Total $old={preview.old}>
            {format.money(cost.total)}
            {cost.each
              ? ` · ${format.unitCost(cost.each)} each for ${format.amount(draft.good)}`
              : " · all of it a loss"}
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
    </Form>
  );
}

interface PartOfForm {
  build: BuildSheet;
  draft: FinishDraft;
  set: (change: Partial<FinishDraft>) => void;
}

/** What came out, where it goes, and when it was done. */
function Outcome({ build, draft, set, errors }: PartOfForm & { errors: Record<string, string> }) {
  const format = useFormat();
  const { product } = build;
  return (
    <Row style={{ marginTop: 16 }}>
      <QuantityField
        packs={product.packs}
        measuredIn={product.unit}
        label="Good"
        name="good"
        width="140px"
        unit={`of ${format.amount(build.open)}`}
        value={draft.good}
        onChange={(good) => set({ good })}
        error={errors.good}
      />
      <QuantityField
        packs={product.packs}
        measuredIn={product.unit}
        label="Rejected"
        name="rejected"
        width="110px"
        value={draft.rejected}
        onChange={(rejected) => set({ rejected })}
        error={errors.rejected}
      />
      {draft.rejected !== "0" && draft.rejected !== "" && (
        <TextField
          label="Why rejected"
          name="reason"
          width="190px"
          value={draft.reason}
          onChange={(reason) => set({ reason })}
        />
      )}
      {product.tracking === "lot" && (
        <>
          <TextField
            label="Lot"
            name="lot"
            width="140px"
            value={draft.lot}
            onChange={(lot) => set({ lot })}
          />
          <DateField
            label="Use by"
            name="expiry"
            value={draft.expiry}
            onChange={(expiry) => set({ expiry })}
          />
        </>
      )}
      <StoreField
        label="Store"
        name="store"
        width="140px"
        value={draft.store}
        onChange={(store) => set({ store })}
      />
      <TextField label="Bin" name="bin" width="90px" value={draft.bin} onChange={(bin) => set({ bin })} />
      <DateField
        label="Done on"
        name="day"
        width="190px"
        value={draft.day}
        onChange={(day) => set({ day })}
      />
    </Row>
  );
}

/** What becomes of the rest where this finishes a part of the build. */
function Rest({ build, draft, set }: PartOfForm) {
  const benched = build.lines.some((line) => line.bench !== "0");
  return (
    <>
      <div>
        <Checkbox isSelected={draft.closeRest} onChange={(closeRest) => set({ closeRest })}>
          Give up the rest: nothing more will be made of {build.number}
        </Checkbox>
      </div>
      {benched && !draft.closeRest && (
        <div>
          <Checkbox isSelected={draft.returnToStock} onChange={(returnToStock) => set({ returnToStock })}>
            Put what is left on the bench back to its bins
          </Checkbox>
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
  ...(cost.subcontractor !== "0.0000" && { "outside workshop": cost.subcontractor }),
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
            label="Part that is not on the list"
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
          <Plus /> Another part
        </Button>
      )}
    </Row>
  );
}

interface CountsProps {
  build: BuildSheet;
  draft: FinishDraft;
  onChange: (draft: FinishDraft) => void;
  errors: Record<string, string>;
}

/** What was counted and is put right with the finish. */
function Counts({ build, draft, onChange, errors }: CountsProps) {
  const format = useFormat();
  return draft.counts.map((count, i) => {
    const line = build.lines.find((l) => l.item.id === count.item);
    const wrong = Object.entries(errors).find(([field]) => field.startsWith(`counts.${i}.`))?.[1];
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
      {preview.noCost.length > 0 && <div>Without a cost: {format.list(preview.noCost)}.</div>}
      {preview.low.length > 0 && (
        <div>
          Below the reorder level after this:{" "}
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
