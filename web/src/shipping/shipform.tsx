import { type OrderLine, type OrderSheet, type ShipPreview, shippingRoutes } from "@yosegi/contract";
import { createContext, type ReactNode, useContext, useEffect, useState } from "react";
import { useFormContext, useWatch } from "react-hook-form";
import styled from "styled-components";
import { Refused } from "../api/index.ts";
import { FinishWith } from "../builds/index.ts";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog, useRefusal } from "../forms/index.ts";
import {
  AnswerPart,
  Button,
  color,
  NARROW,
  Notice,
  Row,
  Short,
  Stack,
  sayDone,
  useFormat,
} from "../ui/index.ts";
import { useShipPreview } from "./queries.ts";
import {
  codesIn,
  finishesFor,
  isSet,
  newShipDraft,
  type ShipDraft,
  shipBodyOf,
  shipField,
  shortWords,
  takenWords,
} from "./shipdraft.ts";
import { marginWords } from "./words.ts";

const In = fieldsOf<ShipDraft>();

interface Answer {
  data: ShipPreview | undefined;
  old: boolean;
  /** Why what is typed can't leave. */
  refused: string | null;
}

/** What the shipment would take and bring; lines read their own part, and are not drawn anew while one types. */
const Figures = createContext<Answer>({ data: undefined, old: false, refused: null });

interface ShipDialogProps {
  order: OrderSheet;
  isOpen: boolean;
  onClose: () => void;
}

/** What leaves of an order: all that is ready is offered, and changed where it is otherwise. */
export function ShipDialog({ order, isOpen, onClose }: ShipDialogProps) {
  const format = useFormat();
  return (
    <FormDialog
      title={`Ship ${order.number} to ${order.customer.name}`}
      isOpen={isOpen}
      onClose={onClose}
      width="960px"
      save="Ship"
      route={shippingRoutes.shipOrder}
      params={{ id: order.id }}
      version={order.version}
      begin={newShipDraft(order, format.settings.today)}
      body={(typed: ShipDraft) => shipBodyOf(typed, order)}
      fieldOf={shipField}
      done={(shipped) => sayDone(`Shipped as ${shipped.number}.`)}
    >
      <WithFigures order={order}>
        <Stack>
          <Lines order={order} />
          <Finishes order={order} />
          <Row>
            <In.Day label="Day" name="day" width="190px" />
            <In.Amount label="Parcels" name="parcels" width="110px" />
            <In.Amount label="Weight" name="weight" width="120px" unit="kg" />
            <In.Text label="Note" name="note" width="340px" />
          </Row>
          <Total />
        </Stack>
      </WithFigures>
    </FormDialog>
  );
}

function WithFigures({ order, children }: { order: OrderSheet; children: ReactNode }) {
  const draft = useWatch<ShipDraft>() as ShipDraft;
  const { data, old, error } = useShipPreview(order.id, shipBodyOf(draft, order));
  const refused = error instanceof Refused ? (error.answer.fields[0]?.message ?? error.message) : null;
  return <Figures value={{ data, old, refused }}>{children}</Figures>;
}

/** Builds that have to be finished for what is to leave; each as planned until something else is said of it. */
function Finishes({ order }: { order: OrderSheet }) {
  const { getValues, setValue } = useFormContext<ShipDraft>();
  const lines = useWatch<ShipDraft, "lines">({ name: "lines" });
  const needed = finishesFor(order, lines);
  const builds = needed.map(({ build }) => build).join(" ");
  // What is not needed any more is not finished.
  useEffect(() => {
    const kept = getValues("finishes").filter(({ build }) => builds.split(" ").includes(String(build)));
    if (kept.length !== getValues("finishes").length) setValue("finishes", kept);
  }, [builds, getValues, setValue]);
  return needed.map(({ build, good }) => (
    <FinishWith
      key={build}
      build={build}
      good={good}
      onChange={(body) =>
        setValue("finishes", [...getValues("finishes").filter((own) => own.build !== build), { build, body }])
      }
    />
  ));
}

/** The lines that were open when this began, also while a colleague ships one of them. */
function Lines({ order }: { order: OrderSheet }) {
  const { getValues } = useFormContext<ShipDraft>();
  return getValues("lines").map(({ line: id }, i) => {
    const line = order.orderLines.find((own) => own.id === id);
    return line && <LineFields key={id} line={line} at={`lines.${i}`} />;
  });
}

interface LineProps {
  line: OrderLine;
  at: `lines.${number}`;
}

function LineFields({ line, at }: LineProps) {
  const format = useFormat();
  const { setValue } = useFormContext<ShipDraft>();
  const single = useWatch<ShipDraft, `lines.${number}.single`>({ name: `${at}.single` });
  const { data, old } = useContext(Figures);
  const own = data?.lines.find((one) => one.line === line.id);
  const { item } = line;
  return (
    <One>
      <Head>
        <div>
          <b>{item.name}</b>
          <small>
            {item.code} · {format.amount(line.open, item.unit)} open
            {line.takes.length > 0 && ` · ${format.amount(line.ready)} ready`}
            {line.serial && ` · serial ${line.serial}`}
          </small>
          {isSet(line) && (
            <Button look="link" onPress={() => setValue(`${at}.single`, !single)}>
              {single ? "Whole sets only" : "Single pieces …"}
            </Button>
          )}
          <Components line={line} at={at} />
        </div>
        <In.Quantity
          label={`Ships (${item.code})`}
          name={`${at}.quantity`}
          width="150px"
          unit={item.unit}
          packs={item.packs}
          {...(line.takes.length === 0 && { hint: "empty: with the last goods" })}
        />
        <AnswerPart $old={old}>
          {own && own.margin !== null && (
            <>
              {format.money(own.revenue)}
              <small>{marginWords(own, format)}</small>
            </>
          )}
        </AnswerPart>
      </Head>
      {single && <Pieces line={line} at={at} />}
    </One>
  );
}

/** How many single pieces leave of each content, besides whole sets. */
function Pieces({ line, at }: LineProps) {
  const format = useFormat();
  return (
    <Row>
      {line.takes.map(({ item, open }, i) => (
        <In.Quantity
          key={item.id}
          label={`Pieces of ${item.code}`}
          name={`${at}.pieces.${i}.quantity`}
          width="130px"
          unit={`of ${format.amount(open)}`}
          measuredIn={item.unit}
          packs={item.packs}
        />
      ))}
    </Row>
  );
}

/** From where what leaves is taken, and which lots or serials it is. */
function Components({ line, at }: LineProps) {
  const format = useFormat();
  const { data, old } = useContext(Figures);
  const components = data?.lines.find((one) => one.line === line.id)?.components ?? [];
  const tracked = line.takes.filter(({ item }) => item.tracking !== "none");
  return (
    <>
      <AnswerPart $old={old}>
        <Taken>
          {components.map((own) => (
            <li key={own.item.id}>
              {isSet(line) && `${format.amount(own.quantity, own.item.unit)} ${own.item.name} · `}
              {own.taken.length > 0 && `from ${takenWords(own, format)}`}
              {shortWords(own, format) && <Short> {shortWords(own, format)}</Short>}
            </li>
          ))}
        </Taken>
      </AnswerPart>
      {tracked.map(({ item }, i) => (
        <Chosen
          key={item.id}
          item={item}
          name={`${at}.only.${i}.codes`}
          choices={components.find((own) => own.item.id === item.id)?.choices ?? []}
        />
      ))}
    </>
  );
}

interface ChosenProps {
  item: OrderLine["item"];
  name: `lines.${number}.only.${number}.codes`;
  choices: ShipPreview["lines"][number]["components"][number]["choices"];
}

/** So many lots or serials are offered by a press; the others are typed or scanned. */
const OFFERED = 6;

/** Lots or serials that leave: typed or scanned one a line, or by one press; empty, the suggested ones do. */
function Chosen({ item, name, choices }: ChosenProps) {
  const format = useFormat();
  const { setValue } = useFormContext<ShipDraft>();
  const typed = useWatch<ShipDraft, typeof name>({ name });
  const codes = codesIn(typed);
  const codeOf = ({ lot, serial }: ChosenProps["choices"][number]) => serial || lot;
  const offered = [...new Map(choices.map((one) => [codeOf(one), one])).values()].filter(
    (one) => !codes.includes(codeOf(one)),
  );
  const what = item.tracking === "lot" ? "Lots" : "Serial numbers";
  const [choosing, setChoosing] = useState(false);
  if (!choosing && codes.length === 0)
    return (
      <div>
        <Button look="link" onPress={() => setChoosing(true)}>
          {item.tracking === "lot" ? "Choose lots" : "Choose serial numbers"} of {item.code} …
        </Button>
      </div>
    );
  return (
    <Row style={{ alignItems: "flex-end" }}>
      <In.Text
        lines
        autoFocus
        label={`${what} of ${item.code}, one a line`}
        name={name}
        width="260px"
        hint={codes.length === 0 ? "empty: as suggested" : format.count(codes.length, "chosen", "chosen")}
      />
      {offered.slice(0, OFFERED).map((one) => (
        <Button
          key={codeOf(one)}
          look="link"
          onPress={() => setValue(name, [...codes, codeOf(one)].join("\n"))}
        >
          {codeOf(one)}
          {item.tracking === "lot" &&
            ` (${format.amount(one.quantity, item.unit)}${one.expiry ? `, use by ${format.day(one.expiry)}` : ""})`}
        </Button>
      ))}
    </Row>
  );
}

/** What it comes to, whether anything stays open, and what stands against it. */
function Total() {
  const format = useFormat();
  const { data, old, refused } = useContext(Figures);
  // The tick shows no message of its own.
  const untaken = useRefusal()?.fields.find(({ field }) => field === "takeFromOthers");
  if (refused) return <Notice role="status">{refused}</Notice>;
  if (!data) return null;
  return (
    <AnswerPart $old={old}>
      <p>
        <b>{format.money(data.revenue)}</b>
        {data.margin !== null && ` · ${marginWords(data, format)}`} ·{" "}
        {data.rest ? "the rest stays open" : "nothing stays open"}
      </p>
      {data.takesFrom.map(({ item, quantity, documents }) => (
        <Notice key={item.id} role="status">
          {format.amount(quantity, item.unit)} of {item.code} are in stock for others:{" "}
          {format.list(documents)}.
        </Notice>
      ))}
      {data.takesFrom.length > 0 && <In.Tick name="takeFromOthers">Take it from them</In.Tick>}
      {data.takesFrom.length > 0 && untaken && <Short role="alert">{untaken.message}</Short>}
      {data.stop !== null && (
        <>
          <Notice role="status">The customer is {data.stop}.</Notice>
          <In.Tick name="goOn">Go on anyway</In.Tick>
        </>
      )}
    </AnswerPart>
  );
}

const One = styled.div`
  display: grid;
  gap: 6px;
  padding-bottom: 12px;
  border-bottom: 1px solid ${color.line};
`;

const Head = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 150px 150px;
  gap: 14px;
  align-items: start;
  small {
    display: block;
    color: ${color.ink2};
  }
  > :last-child {
    text-align: right;
    padding-top: 22px;
  }
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr) 120px;
    > :first-child {
      grid-column: 1 / -1;
    }
  }
`;

const Taken = styled.ul`
  margin: 0;
  padding: 0;
  list-style: none;
  font-size: 14px;
  color: ${color.ink2};
`;
