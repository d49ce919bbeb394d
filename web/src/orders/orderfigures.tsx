import { useQuery } from "@tanstack/react-query";
import { type BodyOf, type MovedOrder, type OrderPreview, orderRoutes } from "@yosegi/contract";
import { createContext, type ReactNode, useContext, useMemo } from "react";
import styled from "styled-components";
import { following, Refused, useSettled } from "../api/index.ts";
import { Button, color, type Format, NARROW, Notice, oldAnswer, Short, useFormat } from "../ui/index.ts";
import { holdingWords, isLater, leavesWords, promiseWords, takenWords } from "./promisewords.ts";

type Asked = BodyOf<typeof orderRoutes.previewOrder>;
type PreviewLine = OrderPreview["lines"][number];

interface OrderAnswer {
  answer: OrderPreview | undefined;
  /** Why there is none, in words. */
  why: string;
  /** The place among the answer's lines of each line that is typed; a line that can't be read yet has none. */
  places: ReadonlyMap<number, number>;
  /** Other orders that would lose stock, or leave later. */
  takesFrom: readonly MovedOrder[];
  old: boolean;
}

const NOBODY: readonly MovedOrder[] = [];

const FiguresContext = createContext<OrderAnswer>({
  answer: undefined,
  why: "",
  places: new Map(),
  takesFrom: NOBODY,
  old: false,
});

interface OrderFiguresProps {
  order: number | null;
  customer: number | null;
  due: string | null;
  /** All lines of the form; those that can't be read yet are not asked for. */
  lines: readonly Asked["lines"][number][];
  children: ReactNode;
}

const readLine = orderRoutes.previewOrder.body.shape.lines.element;

/** Asks what the lines of an order come to while they are typed, and gives it to `LineFigures` and `OrderTotal`. */
export function OrderFigures({ order, customer, due, lines, children }: OrderFiguresProps) {
  const readable = lines.flatMap((line, i) => (readLine.safeParse(line).success ? [i] : []));
  const asked = readable.flatMap((i) => lines[i] ?? []);
  const { settled, overtaken } = useSettled({ order, customer, due, lines: asked });
  const query = useQuery({
    ...following(orderRoutes.previewOrder, { body: settled }),
    enabled: settled.lines.length > 0 || settled.customer !== null,
    retry: false,
  });
  const { data, error } = query;
  const losers = useQuery({
    ...following(orderRoutes.previewLosers, { body: settled }),
    enabled: settled.lines.length > 0 && !error,
    retry: false,
  });
  const takesFrom = losers.data?.takesFrom ?? NOBODY;
  // An answer to fewer or more lines would stand beside others than it was given to.
  const answer = error || data?.lines.length !== asked.length ? undefined : data;
  const why = asked.length === 0 ? "" : refusalWords(error, readable);
  const old = overtaken || query.isPlaceholderData;
  const of = readable.join(" ");
  // Drawn again where it changes, and not at every key: there may be 500 lines.
  const value = useMemo((): OrderAnswer => {
    const places = new Map(of.split(" ").map((line, place) => [Number(line), place]));
    return { answer, why, places, takesFrom, old };
  }, [answer, why, of, takesFrom, old]);
  return <FiguresContext value={value}>{children}</FiguresContext>;
}

/** Where to look when there are no figures: what is wrong with a line is said at its field when the order is saved. */
function refusalWords(error: Error | null, readable: readonly number[]): string {
  if (!error) return "";
  const [field] = error instanceof Refused ? error.answer.fields : [];
  const line = readable[Number(/^lines\.(\d+)\./.exec(field?.field ?? "")?.[1] ?? -1)];
  return line === undefined ? error.message : `No total yet: check line ${line + 1}.`;
}

interface LineFiguresProps {
  at: number;
  unit: string | undefined;
  /** As it was typed; "" for the one that is offered. */
  price: string;
  onOffered: () => void;
  /** The day promised for this line alone; "" for none. */
  promised: string;
  onPromise: (day: string) => void;
}

/** What one line comes to, its margin, how much is free, when it could leave, and what the customer was last charged. */
export function LineFigures({ at, unit, price, onOffered, promised, onPromise }: LineFiguresProps) {
  const format = useFormat();
  const { answer, places, old } = useContext(FiguresContext);
  const line = answer?.lines[places.get(at) ?? -1];
  return (
    <Beside $old={old} aria-label={`Figures of line ${at + 1}`} role="group">
      {line && (
        <>
          <b>{line.total === null ? "no price" : format.money(line.total)}</b>
          <small>
            {marginWords(line, format)}
            {line.margin && line.free !== null && " · "}
            {line.free !== null && <Free line={line} unit={unit} />}
          </small>
          {line.price && priceWords(line.price, unit, format) && (
            <small>{priceWords(line.price, unit, format)}</small>
          )}
          {price !== "" && line.set?.offered && line.set.offered !== price && (
            <small>
              {format.money(line.set.offered)} with these contents{" "}
              <Button look="link" aria-label={`Use the price of line ${at + 1}`} onPress={onOffered}>
                Use
              </Button>
            </small>
          )}
          <small>
            <LinePromise at={at} line={line} promised={promised} onPromise={onPromise} />
          </small>
          {line.last && <small>{lastWords(line.last, format)}</small>}
        </>
      )}
    </Beside>
  );
}

/** What the last answer says of a line that is typed; undefined until there is one. */
export function useLineFigures(at: number): PreviewLine | undefined {
  const { answer, places } = useContext(FiguresContext);
  return answer?.lines[places.get(at) ?? -1];
}

/** The price that counts for a line while none is typed, as the empty field shows it. */
export function useOfferedPrice(at: number): string {
  const format = useFormat();
  const price = useLineFigures(at)?.price;
  return price && price.of !== "typed" ? format.quantity(price.price, format.moneyDecimals) : "catalog price";
}

/** What is to be known of the customer; undefined until there is an answer. */
export function useOrderCustomer(): OrderPreview["customer"] | undefined {
  return useContext(FiguresContext).answer?.customer;
}

/** How much is free, marked where it is less than what is asked for. */
function Free({ line, unit }: { line: PreviewLine; unit: string | undefined }) {
  const words = `${useFormat().amount(line.free ?? "0", unit)} free`;
  return line.short === "0" ? words : <Short>{words}</Short>;
}

interface LinePromiseProps extends Pick<LineFiguresProps, "at" | "promised" | "onPromise"> {
  line: PreviewLine;
}

/** When the line could leave, and one press that promises it. */
function LinePromise({ at, line, promised, onPromise }: LinePromiseProps) {
  const format = useFormat();
  const { day } = line.promise;
  if (promised !== "") {
    const words = `promised ${format.day(promised)}`;
    return (
      <>
        {isLater(day, promised) ? <Short>{words}</Short> : words}{" "}
        <Button look="link" aria-label={`Don't promise line ${at + 1}`} onPress={() => onPromise("")}>
          Clear
        </Button>
      </>
    );
  }
  if (day === null) return <Short>date unknown</Short>;
  return (
    <>
      {leavesWords(day, format)}{" "}
      <Button
        look="link"
        aria-label={`Promise line ${at + 1} for ${format.day(day)}`}
        onPress={() => onPromise(day)}
      >
        Promise
      </Button>
    </>
  );
}

/** When all of the order could leave, what holds it, whose stock it takes, and one press that promises the day. */
export function OrderPromise({ onPromise }: { onPromise: (day: string) => void }) {
  const format = useFormat();
  const { answer, why, places, takesFrom, old } = useContext(FiguresContext);
  if (why !== "" || !answer || answer.lines.length === 0) return null;
  const { promise } = answer;
  const { day } = promise;
  const place = promise.heldBy?.line ?? 0;
  const typed = [...places].find(([, at]) => at === place)?.[0] ?? 0;
  return (
    <Promised $old={old} role="group" aria-label="Promise">
      <b>{promiseWords(promise, format)}</b>
      {day !== null && (
        <Button look="link" onPress={() => onPromise(day)}>
          Promise {format.day(day)}
        </Button>
      )}
      {promise.heldBy && <small>{holdingWords(promise.heldBy, `Line ${typed + 1}`, format)}</small>}
      {takesFrom.map((moved) => (
        <small key={moved.id}>
          <Short>{takenWords(moved, format)}</Short>
        </small>
      ))}
    </Promised>
  );
}

const LIST_WORDS = { customer: "customer's price list", group: "group's price list" } as const;

/** Which price list the price is from, and from how many on it counts; "" where it is from none. */
function priceWords(
  { of, from, price, pricePer }: NonNullable<PreviewLine["price"]>,
  unit: string | undefined,
  format: Format,
): string {
  if (of !== "customer" && of !== "group") return "";
  const step = from === null || from === "0" ? "" : `, from ${format.amount(from, unit)}`;
  return `${format.unitCost(price, pricePer)}: ${LIST_WORDS[of]}${step}`;
}

const lastWords = (
  { price, pricePer, discount, number }: NonNullable<PreviewLine["last"]>,
  format: Format,
): string =>
  `last ${format.unitCost(price, pricePer)}${discount === "0" ? "" : ` less ${format.percent(discount)}`} on ${number}`;

const marginWords = (
  { margin, marginPercent }: Pick<OrderPreview, "margin" | "marginPercent">,
  format: Format,
): string =>
  margin === null || margin === undefined
    ? ""
    : `margin ${format.money(margin)}${marginPercent === null ? "" : ` (${format.percent(marginPercent)})`}`;

/** What the whole order comes to, and its margin at today's cost. */
export function OrderTotal() {
  const format = useFormat();
  const { answer, why, old } = useContext(FiguresContext);
  if (why !== "") return <Notice role="status">{why}</Notice>;
  if (!answer || answer.lines.length === 0) return null;
  const words = marginWords(answer, format);
  return (
    <Total $old={old} role="group" aria-label="Total">
      <b>{answer.total === null ? "Total: price missing" : `Total ${format.money(answer.total)}`}</b>
      {words && <small>{words}</small>}
      <TaxLines taxes={answer.taxes} gross={answer.gross} />
    </Total>
  );
}

/** The tax of each rate, and the total with it; nothing where no tax is charged. */
export function TaxLines({ taxes, gross }: Pick<OrderPreview, "taxes" | "gross">) {
  const format = useFormat();
  const charged = taxes.filter(({ rate }) => rate !== "0");
  if (charged.length === 0 || gross === null) return null;
  const tax = charged.map(({ rate, tax }) => `${format.percent(rate)} tax ${format.money(tax)}`);
  return (
    <Below>
      plus {format.list(tax)}: {format.money(gross)}
    </Below>
  );
}

const Below = styled.small`
  display: block;
`;

const Figures = styled.div<{ $old: boolean }>`
  ${oldAnswer}
  text-align: end;
  small {
    display: block;
    color: ${color.ink2};
  }
`;

const Beside = styled(Figures)`
  width: 210px;
  align-self: center;
  button {
    min-height: 24px;
    padding-block: 0;
    font-size: 13px;
    ${NARROW} {
      min-height: 44px;
    }
  }
`;

const Promised = styled.div<{ $old: boolean }>`
  ${oldAnswer}
  max-width: 720px;
  button {
    margin-left: 10px;
  }
  small {
    display: block;
    color: ${color.ink2};
  }
`;

const Total = styled(Figures)`
  margin-left: auto;
  b {
    font-size: 17px;
  }
`;
