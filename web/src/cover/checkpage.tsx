import { type CoverAnswer, type CoverQuestion, coverRoutes, type PartCoverAnswer } from "@yosegi/contract";
import { lazy, Suspense, useEffect, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { call, Failure, Refused, Unanswered } from "../api/index.ts";
import { useItems, useStores } from "../fields/index.ts";
import { MixDialog } from "../mix/index.ts";
import {
  AnswerPart,
  Button,
  Checkbox,
  EmptyPage,
  Fold,
  type Format,
  Page,
  Row,
  Select,
  sayFailed,
  TARGET,
  TileKey,
  TOUCH,
  tileSize,
  Unseen,
  useFormat,
  useNarrow,
  useShortcut,
} from "../ui/index.ts";
import { Answer } from "./answer.tsx";
import {
  type Change,
  type CheckInput,
  inputOf,
  NOTHING_SUPPOSED,
  NOTHING_WANTED,
  questionOf,
  supposedQuestion,
  supposesNothing,
  useCheckInput,
  useLastCheck,
  type Wanted,
} from "./checkinput.ts";
import { DemandRows } from "./demandrows.tsx";
import { OtherWay } from "./otherway.tsx";
import { PartDialog } from "./partdialog.tsx";
import { useCover, useExpected, useSavedChecks } from "./queries.ts";
import { KeptDialog } from "./saved.tsx";
import { beside, TILES } from "./sentences.ts";
import { Todo } from "./todo.tsx";
import { WhatIf } from "./whatif.tsx";

/** Asked for as soon as something is chosen, while the answer is calculated. */
const loadTable = () => import("./partstable.tsx");
const PartsTable = lazy(async () => ({ default: (await loadTable()).PartsTable }));
const KeepDialog = lazy(async () => ({ default: (await import("./savecheck.tsx")).KeepDialog }));

/** Can it be made, what stops it, and when could all of it be done? What is asked stands in the address. */
export function CheckPage() {
  const [input, change] = useCheckInput();
  const navigate = useNavigate();
  const anything = useItems({ kind: "built", limit: 1 });
  const base = questionOf(input);
  const cover = useCover(base.question);
  const format = useFormat();
  const last = useLastCheck(input);
  const asksNothing = input.wanted.every((w) => w.item === 0);
  useEffect(() => {
    if (!asksNothing) loadTable().catch((error: Error) => console.warn(error.message));
  }, [asksNothing]);
  useShortcut("n", "New check", () =>
    change(() => ({ wanted: [NOTHING_WANTED], supposing: false, supposed: NOTHING_SUPPOSED })),
  );
  if (anything.data?.total === 0)
    return (
      <EmptyPage
        title="Check what you can build"
        action={
          <Button look="main" onPress={() => void navigate("/catalog")}>
            Go to the catalog
          </Button>
        }
      >
        See how many you can build, which part limits you and when the rest can be done. You need a product
        with a parts list: create one in the catalog or import your lists.
      </EmptyPage>
    );
  const refusal = cover.error instanceof Refused ? cover.error.answer.fields : [];
  const errorOf = (row: number, field: string) => {
    const path = `demands.${base.places.indexOf(row)}.${field}`;
    return base.errors[path] ?? refusal.find((f) => f.field === path)?.message;
  };
  const known = refusal.some((f) => f.field.startsWith("demands."));
  const answered = base.question !== null && cover.data !== undefined && !cover.error;
  return (
    <Page>
      {asksNothing ? <Title>Check what you can build</Title> : !answered && <UnseenTitle />}
      <Fold summary={askedWords(cover.data, format)} folds={base.question !== null && !cover.error}>
        <DemandRows
          wanted={input.wanted}
          onChange={(to) => change(({ wanted }) => ({ wanted: to(wanted) }))}
          errorOf={errorOf}
          answerOf={(row) => (base.question ? cover.data?.demands[base.places.indexOf(row)] : undefined)}
          more={<Choices input={input} onChange={change} />}
        />
      </Fold>
      {cover.error && !known && <Failure error={cover.error} />}
      {asksNothing && (
        <Lead>
          Pick a product and quantity; the answer updates as you type.{" "}
          {last !== null && (
            <Button look="link" onPress={() => void navigate(`/check?${last}`)}>
              Go on with your last check
            </Button>
          )}
        </Lead>
      )}
      {input.wanted.some((w) => w.item !== 0) && base.places.length === 0 && <Lead>Enter a quantity.</Lead>}
      {answered && base.question && cover.data && (
        <AnswerPart $old={cover.old}>
          {/* All of it at once: what is loaded late would move the buttons below from under the pointer. */}
          <Suspense fallback={<Loading />}>
            <Result input={input} base={base.question} cover={cover.data} onChange={change} />
          </Suspense>
        </AnswerPart>
      )}
    </Page>
  );
}

/** The sentence of the answer is the title; until it is there, only a screen reader is told one. */
const UnseenTitle = () => <Unseen as="h1">Check</Unseen>;

const Loading = () => (
  <>
    <UnseenTitle />
    <Unanswered error={null} />
  </>
);

/** What is asked, in one line. */
function askedWords(cover: CoverAnswer | undefined, format: Format): string {
  if (!cover) return "What is wanted";
  return format.list(cover.demands.map((d) => `${format.amount(d.wanted, d.item.unit)} ${d.item.code}`));
}

const ALL_STORES = "–";

const Title = styled.h1`
  margin-bottom: 12px;
`;

interface ChoicesProps {
  input: CheckInput;
  onChange: Change;
}

/** Which store counts, what to take over from open builds and orders, and checks that were kept. */
function Choices({ input, onChange }: ChoicesProps) {
  const stores = useStores().data?.stores ?? [];
  const kept = useSavedChecks().data?.checks ?? [];
  const [opening, setOpening] = useState(false);
  const takeOpen = async () => {
    const answer = await call(coverRoutes.openDemands, {}).catch((error: Error) => sayFailed(error.message));
    if (!answer) return;
    if (answer.demands.length === 0) return sayFailed("No open builds and no short orders.");
    const wanted = answer.demands.flatMap((demand) => inputOf({ ...EMPTY, demands: [demand] }).wanted);
    // What stands there already stays; what is there twice is asked for once.
    const same = (a: Wanted, b: Wanted) => JSON.stringify(a) === JSON.stringify(b);
    onChange((now) => {
      const kept = now.wanted.filter((w) => w.item !== 0);
      return { wanted: [...kept, ...wanted.filter((w) => !kept.some((k) => same(k, w)))] };
    });
  };
  return (
    <>
      {stores.length > 1 && (
        <Select
          label="Stock of"
          hideLabel
          width="150px"
          value={input.store === "" ? ALL_STORES : input.store}
          options={[
            { value: ALL_STORES, label: "All stores" },
            ...stores.map((s) => ({ value: s.name, label: s.name })),
          ]}
          onChange={(store) => onChange(() => ({ store: store === ALL_STORES ? "" : store }))}
        />
      )}
      <Button look="link" onPress={() => void takeOpen()}>
        Load open builds and orders
      </Button>
      {kept.length > 0 && (
        <Button look="link" onPress={() => setOpening(true)}>
          Saved checks
        </Button>
      )}
      <KeptDialog
        isOpen={opening}
        onClose={() => setOpening(false)}
        onOpen={(question) => {
          setOpening(false);
          onChange(() => inputOf(question));
        }}
      />
    </>
  );
}

const EMPTY: CoverQuestion = { demands: [], store: "", stock: [], incoming: [] };

interface ResultProps {
  input: CheckInput;
  base: CoverQuestion;
  cover: NonNullable<ReturnType<typeof useCover>["data"]>;
  onChange: Change;
}

function Result({ input, base, cover: now, onChange }: ResultProps) {
  const format = useFormat();
  const { supposing, supposed } = input;
  const other = supposing && !supposesNothing(supposed) ? supposedQuestion(base, supposed) : null;
  const supposedCover = useCover(other?.question ?? null);
  const then = other?.question ? (supposedCover.data ?? null) : null;
  // What is shown below follows what is supposed, so that it can be made real.
  const cover = then ?? now;
  const question = (then && other?.question) || base;
  const [onlyShort, setOnlyShort] = useState(false);
  const [open, setOpen] = useState<PartCoverAnswer | null>(null);
  const [mixing, setMixing] = useState(false);
  const [keeping, setKeeping] = useState(false);
  const [only, ...others] = cover.demands;
  const single = others.length === 0 ? only : undefined;
  const expected = useExpected(single?.item.kind === "built" ? single.item.id : 0, single?.wanted ?? "1");
  const refused = supposedCover.error instanceof Refused ? supposedCover.error.answer.fields : [];
  const errors = { ...other?.errors, ...Object.fromEntries(refused.map((f) => [f.field, f.message])) };
  const address = encodeURIComponent(JSON.stringify(question));
  // What is to be done next stands before the figures where these take several screens.
  const narrow = useNarrow();
  const todo = <Todo cover={cover} question={question} />;
  return (
    <>
      <Answer cover={now} beside={single && !then ? beside(single, expected.data, format) : ""} />
      <Tools>
        <Checkbox isSelected={onlyShort} onChange={setOnlyShort}>
          Only short parts
        </Checkbox>
        <Button
          look="link"
          aria-pressed={supposing}
          onPress={() => onChange(() => ({ supposing: !supposing, supposed: NOTHING_SUPPOSED }))}
        >
          {supposing ? "Close what-if" : "What if …"}
        </Button>
        {cover.demands.length > 1 && (
          <Button look="link" onPress={() => setMixing(true)}>
            Best mix
          </Button>
        )}
        <Button look="link" onPress={() => setKeeping(true)}>
          Save check …
        </Button>
        <a href={`/api/cover/export?format=xlsx&question=${address}`}>XLSX</a>
        <a href={`/api/cover/export?format=csv&question=${address}`}>CSV</a>
        <Button look="link" onPress={() => window.print()}>
          Print
        </Button>
      </Tools>
      {supposing && (
        <WhatIf
          base={base}
          now={now}
          then={then}
          supposed={supposed}
          errors={errors}
          onChange={(to) => onChange((now) => ({ supposed: to(now.supposed) }))}
          onTake={() => onChange((now) => takenOver(now, base))}
        />
      )}
      {narrow && todo}
      <Proof>
        <PartsTable cover={cover} onlyShort={onlyShort} onOpen={setOpen} />
      </Proof>
      <Words>
        <TileKey words={keyWords(single?.wanted ?? null, single?.item.unit ?? "", format)} />
      </Words>
      {!narrow && todo}
      {single && (
        <OtherWay
          question={question}
          unit={single.item.unit}
          onUse={(quantity) =>
            onChange(({ wanted, supposed }) => ({
              wanted: wanted.map((w) => (w.item === single.item.id ? { ...w, quantity } : w)),
              supposed: { ...supposed, demands: supposed.demands.map((d) => ({ ...d, quantity: "" })) },
            }))
          }
        />
      )}
      <PartDialog part={open} question={question} onClose={() => setOpen(null)} />
      {mixing && (
        <Suspense>
          <MixDialog
            question={question}
            isOpen
            onClose={() => setMixing(false)}
            onUse={(quantities) => {
              setMixing(false);
              const wanted = inputOf(base).wanted.map((w, i) => ({
                ...w,
                quantity: quantities[i] ?? w.quantity,
              }));
              onChange(() => ({ wanted }));
            }}
          />
        </Suspense>
      )}
      {keeping && (
        <Suspense>
          <KeepDialog question={question} isOpen onClose={() => setKeeping(false)} />
        </Suspense>
      )}
    </>
  );
}

/** What is supposed of quantities, days and lists, asked for as it is. */
function takenOver(input: CheckInput, base: CoverQuestion): Partial<CheckInput> {
  const wanted = inputOf(base).wanted.map((w, at) => {
    const other = input.supposed.demands.find((s) => s.at === at);
    return {
      ...w,
      ...(other && other.quantity !== "" && { quantity: other.quantity }),
      ...(other && other.day !== "" && { day: other.day }),
      ...(other && other.list !== "" && { list: other.list }),
    };
  });
  return { wanted, supposed: { ...input.supposed, demands: [] } };
}

function keyWords(wanted: string | null, unit: string, format: ReturnType<typeof useFormat>) {
  const full =
    wanted === null
      ? "in stock, share of need"
      : `in stock (1 tile = ${format.amount(tileSize(wanted, TILES), unit)})`;
  return { full, hatched: "incoming in time", missing: "short" };
}

const Lead = styled.p`
  font: 500 20px/1.4 "Bricolage Grotesque Variable", sans-serif;
  color: var(--ink2);
  margin: 28px 0;
`;

const Tools = styled(Row)`
  align-items: center;
  gap: 4px 16px;
  margin-top: 6px;
  a {
    display: inline-flex;
    align-items: center;
    font-weight: 600;
    ${TOUCH} {
      min-height: ${TARGET};
    }
  }
  @media print {
    display: none;
  }
`;

const Proof = styled.div`
  margin-top: 6px;
  min-height: 220px;
  flex: none;
  display: flex;
  flex-direction: column;
  overflow-x: auto;
`;

const Words = styled.div`
  margin-top: 8px;
  margin-left: auto;
`;
