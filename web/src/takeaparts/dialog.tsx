import {
  type BodyOf,
  type ItemRow,
  type TakeApartProposal,
  type TakeApartSheet,
  takeApartRoutes,
} from "@yosegi/contract";
import { useEffect, useRef } from "react";
import { useFormContext, useWatch } from "react-hook-form";
import { fieldsOf, ItemField } from "../fields/index.ts";
import { FormDialog, sentLines, wholeNumber } from "../forms/index.ts";
import {
  AnswerPart,
  Named,
  Notice,
  Row,
  Select,
  SheetTable,
  Stack,
  Sub,
  sayDone,
  useFormat,
} from "../ui/index.ts";
import { goodRest } from "./goodrest.ts";
import { besides, LandingBar } from "./landing.tsx";
import { offeredAgain, type PartDraft, partOf } from "./partdraft.ts";
import { ScanParts } from "./partscan.tsx";
import { useProposal, useTakeApartPreview } from "./queries.ts";

interface Draft {
  item: Pick<ItemRow, "id" | "code" | "name" | "unit" | "packs" | "tracking"> | null;
  quantity: string;
  lot: string;
  serial: string;
  store: string;
  bin: string;
  /** Id of the build, as text; "" where it is found by itself or not known. */
  build: string;
  /** Id of the revision that was chosen in place of any build; "" for none. */
  revision: string;
  day: string;
  reason: string;
  costTag: string;
  work: ItemRow | null;
  minutes: string;
  charge: boolean;
  parts: PartDraft[];
}

const In = fieldsOf<Draft>();

/** What is taken apart, as far as it is known where the dialog is opened. */
export interface TakeApartStart {
  item?: Draft["item"];
  quantity?: string;
  lot?: string;
  serial?: string;
  store?: string;
  bin?: string;
  /** The line of a return that it is taken from. */
  returnLine?: { id: number; line: number; number: string };
}

/** What is expected none of stays as it is: nothing is said of it. */
const isTaken = ({ expected }: Pick<PartDraft, "expected">) => expected !== "0";

const bodyOf = (
  { item, build, revision, parts, work, minutes, ...typed }: Draft,
  start: TakeApartStart,
): BodyOf<typeof takeApartRoutes.newTakeApart> => ({
  ...typed,
  parts: parts
    .filter(isTaken)
    .map(({ item: part, isOpen: _, barcode: _barcode, ...own }) => ({ ...own, item: part.id })),
  item: item?.id ?? 0,
  work: work?.id ?? null,
  minutes: minutes === "" ? "0" : minutes,
  build: wholeNumber(build),
  revision: wholeNumber(revision),
  returnLine: start.returnLine ? { id: start.returnLine.id, line: start.returnLine.line } : null,
});

interface TakeApartDialogProps {
  start: TakeApartStart;
  onClose: () => void;
  onDone: (made: TakeApartSheet) => void;
}

/** Takes units of a product apart: which, what of their parts is good, and where those go. */
export function TakeApartDialog({ start, onClose, onDone }: TakeApartDialogProps) {
  const format = useFormat();
  const begin: Draft = {
    item: start.item ?? null,
    quantity: start.quantity ?? "1",
    lot: start.lot ?? "",
    serial: start.serial ?? "",
    store: start.store ?? "",
    bin: start.bin ?? "",
    build: "",
    revision: "",
    day: format.settings.today,
    reason: "",
    costTag: "",
    work: null,
    minutes: "",
    charge: false,
    parts: [],
  };
  return (
    <FormDialog
      title="Take apart"
      isOpen
      onClose={onClose}
      width="960px"
      save="Take apart"
      route={takeApartRoutes.newTakeApart}
      begin={begin}
      body={(typed: Draft) => bodyOf(typed, start)}
      fieldOf={sentLines("parts", isTaken)}
      done={(made) => {
        sayDone(`Taken apart as ${made.number}.`);
        onDone(made);
      }}
    >
      <Fields start={start} />
    </FormDialog>
  );
}

function Fields({ start }: { start: TakeApartStart }) {
  const draft = useWatch<Draft>() as Draft;
  const { item, quantity, lot, serial, build, revision } = draft;
  const { getValues, setValue } = useFormContext<Draft>();
  const units = {
    item: item?.id ?? 0,
    quantity,
    lot,
    serial,
    build: Number(build),
    revision: Number(revision),
  };
  const { data, error } = useProposal(units);
  const last = useRef<{ text: string; item: number; parts: PartDraft[] }>({ text: "", item: 0, parts: [] });
  useEffect(() => {
    if (!data) return;
    // The same parts asked again are no other offer: what was typed stays.
    const text = JSON.stringify([data.item.id, data.build, data.revision, data.parts]);
    const before = last.current;
    if (text === before.text) return;
    const parts = data.parts.map(partOf);
    last.current = { text, item: data.item.id, parts };
    const isSame = before.item === data.item.id;
    setValue("parts", isSame ? offeredAgain(parts, before.parts, getValues("parts")) : parts);
    setValue("build", data.build ? String(data.build.id) : "");
    if (getValues("store") !== "") return;
    setValue("store", data.home.store);
    setValue("bin", data.home.bin);
  }, [data, getValues, setValue]);
  // Another product, lot or number comes from another build.
  const others = () => {
    setValue("build", "");
    setValue("revision", "");
  };
  return (
    <Stack>
      <Row>
        <In.Item
          label="Product"
          name="item"
          choosing="built"
          width="280px"
          autoFocus={!start.item}
          onChanged={others}
        />
        <In.Quantity
          label="Quantity"
          name="quantity"
          width="130px"
          unit={item?.unit}
          packs={item?.packs ?? []}
        />
        {item?.tracking === "lot" && <In.Text label="Lot" name="lot" width="140px" onChanged={others} />}
        {item?.tracking === "serial" && (
          <In.Text label="Serial number" name="serial" width="160px" onChanged={others} />
        )}
        {start.returnLine ? (
          <Sub>from {start.returnLine.number}</Sub>
        ) : (
          <>
            <In.Store label="From store" name="store" width="160px" />
            <In.Text label="Bin" name="bin" width="90px" />
          </>
        )}
      </Row>
      {error && item && <Notice>{error.message}</Notice>}
      {data && (
        <>
          <BuildChoice proposal={data} />
          <RevisionChoice proposal={data} />
          <Scans key={JSON.stringify([data.item.id, data.build, data.revision])} />
          <Parts />
          <Sub>A part that stays as it is has 0 expected.</Sub>
          <FoundPart proposal={data} />
          <Row>
            <In.Text label="Why" name="reason" width="320px" />
            <In.Day label="Day" name="day" width="170px" />
            <In.Text label="Cost tag" name="costTag" width="130px" />
          </Row>
          <Row>
            <In.Item label="Work" name="work" choosing="work" width="280px" />
            <In.Amount label="Time spent" name="minutes" width="130px" unit="min" />
          </Row>
          {start.returnLine && (
            <In.Tick name="charge">
              Take what is lost with damaged and missing parts off the customer's credit
            </In.Tick>
          )}
          <Landing start={start} />
        </>
      )}
    </Stack>
  );
}

/** The build that the units come from decides what is expected; where it isn't known, a parts list does. */
function BuildChoice({ proposal }: { proposal: TakeApartProposal }) {
  const { builds, item, revisions } = proposal;
  const format = useFormat();
  const { setValue } = useFormContext<Draft>();
  // A build that is known by the number is not asked for again, once a parts list is chosen in its place.
  const byList = String((revisions.find(({ inForce }) => inForce) ?? revisions[0])?.id ?? "");
  if (builds.length === 0) return <Sub>No build of it is known: the parts list says what to expect.</Sub>;
  return (
    <In.Choice
      label="Built by"
      name="build"
      width="280px"
      onChanged={(build) => setValue("revision", build === "" ? byList : "")}
      none="not known: by the parts list"
      options={builds.map(({ id, number, left }) => ({
        value: String(id),
        label: `${number}, ${format.amount(left, item.unit)} left`,
      }))}
    />
  );
}

/** The revision that says what is inside where no build does. */
function RevisionChoice({ proposal: { build, revision, revisions } }: { proposal: TakeApartProposal }) {
  const { setValue } = useFormContext<Draft>();
  if (build || revisions.length < 2) return null;
  return (
    <Select
      label="Parts list"
      width="280px"
      value={String(revision ?? "")}
      options={revisions.map(({ id, list, number, inForce }) => ({
        value: String(id),
        label: `${list}, revision ${number}${inForce ? " (in force)" : ""}`,
      }))}
      onChange={(id) => setValue("revision", id, { shouldDirty: true })}
    />
  );
}

/** Scans of good parts; those that were not scanned are missing. */
function Scans() {
  const parts = useWatch<Draft, "parts">({ name: "parts" });
  const { setValue } = useFormContext<Draft>();
  return (
    <ScanParts
      parts={parts}
      onMissing={(missing) => {
        for (const [place, text] of missing.entries()) {
          const { expected = "", damaged = "" } = parts[place] ?? {};
          setValue(`parts.${place}.missing`, text, { shouldDirty: true });
          setValue(`parts.${place}.good`, goodRest(expected, damaged, text) ?? "", { shouldDirty: true });
        }
      }}
    />
  );
}

function Parts() {
  const parts = useWatch<Draft, "parts">({ name: "parts" });
  const { getValues, setValue } = useFormContext<Draft>();
  // What is damaged or missing is not good: the person types only that.
  const follow = (place: number) => {
    const { expected, damaged, missing } = getValues(`parts.${place}`);
    const good = goodRest(expected, damaged, missing);
    if (good !== null) setValue(`parts.${place}.good`, good, { shouldDirty: true });
  };
  const named = ({ item, lot, serial, isOpen }: PartDraft) =>
    [item.code, isOpen ? "" : serial || lot].filter(Boolean).join(" ");
  type Shown = readonly [part: PartDraft, place: number];
  const figure = (header: string, name: "expected" | "good" | "damaged" | "missing") => ({
    header,
    isField: true,
    cell: ([part, place]: Shown) => (
      <In.Amount
        label={`${header} of ${named(part)}`}
        hideLabel
        name={`parts.${place}.${name}`}
        width="100px"
        unit={part.item.unit}
        {...(name !== "good" && { onChanged: () => follow(place) })}
      />
    ),
  });
  return (
    <SheetTable
      label="Parts"
      rows={parts.map((part, place): Shown => [part, place])}
      rowId={([, place]) => place}
      columns={[
        {
          header: "Part",
          cell: ([part, place]) => (
            <>
              <Named name={part.item.name} more={[named(part)]} />
              {part.item.tracking === "lot" && part.isOpen && (
                <In.Text label={`Lot of ${part.item.code}`} name={`parts.${place}.lot`} width="130px" />
              )}
              {part.item.tracking === "serial" && part.isOpen && (
                <In.Text
                  label={`Serial number of ${part.item.code}`}
                  name={`parts.${place}.serial`}
                  width="130px"
                />
              )}
            </>
          ),
        },
        figure("Expected", "expected"),
        figure("Good", "good"),
        figure("Damaged", "damaged"),
        figure("Missing", "missing"),
        {
          header: "Put away in",
          cell: ([part, place]) => (
            <Row>
              <In.Store
                label={`Store of ${named(part)}`}
                hideLabel
                name={`parts.${place}.store`}
                width="140px"
              />
              <In.Text label={`Bin of ${named(part)}`} hideLabel name={`parts.${place}.bin`} width="80px" />
            </Row>
          ),
        },
      ]}
    />
  );
}

/** A part that was found inside though nothing said so. */
function FoundPart({ proposal }: { proposal: TakeApartProposal }) {
  const { getValues, setValue } = useFormContext<Draft>();
  return (
    <ItemField
      label="Something else was inside"
      width="280px"
      choosing="stock"
      value={null}
      onChange={(item) => {
        if (!item) return;
        const found = { item, barcode: "", lot: "", serial: "", expected: "1", home: proposal.home };
        setValue("parts", [...getValues("parts"), partOf(found)], { shouldDirty: true });
      }}
    />
  );
}

/** Where the value lands, as it is typed. */
function Landing({ start }: { start: TakeApartStart }) {
  const format = useFormat();
  const draft = useWatch<Draft>() as Draft;
  const { data, old } = useTakeApartPreview(bodyOf(draft, start));
  if (!data) return null;
  return (
    <AnswerPart $old={old}>
      <span>
        {format.money(data.valueOut)} taken apart, {format.money(data.recovered)} back in stock
        {besides(data, format)}
      </span>
      <LandingBar {...data} />
    </AnswerPart>
  );
}
