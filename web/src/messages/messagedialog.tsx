import { LARGEST_LIST, type LineRead, messageOf, messageRoutes } from "@yosegi/contract";
import { X } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { call, Refused, useCommand } from "../api/index.ts";
import { ItemField } from "../fields/index.ts";
import {
  Actions,
  AmountField,
  Button,
  base64Of,
  color,
  Dialog,
  FileButton,
  type Format,
  NARROW,
  Notice,
  Row,
  Short,
  TextField,
  useFormat,
} from "../ui/index.ts";
import {
  beginSettling,
  isSettled,
  type Settling,
  type TakenLine,
  takenLines,
  tooMany,
  wordsToRemember,
} from "./settling.ts";

interface MessageDialogProps {
  customer: { id: number; name: string } | null;
  isOpen: boolean;
  onClose: () => void;
  onTake: (lines: TakenLine[]) => void;
}

/** A customer's message or list becomes lines of an order; what is not certain is settled by a person, and remembered. */
export function MessageDialog({ isOpen, onClose, ...inside }: MessageDialogProps) {
  // What was pasted and settled is there again when the dialog was closed by mistake.
  const [text, setText] = useState("");
  const [lines, setLines] = useState<Settling[] | null>(null);
  return (
    <Dialog title="From a message or list" isOpen={isOpen} onClose={onClose} width="980px">
      <Inside {...inside} text={text} setText={setText} lines={lines} setLines={setLines} onClose={onClose} />
    </Dialog>
  );
}

interface InsideProps extends Omit<MessageDialogProps, "isOpen"> {
  text: string;
  setText: (text: string) => void;
  lines: Settling[] | null;
  setLines: (lines: Settling[] | null) => void;
}

function Inside({ customer, onClose, onTake, text, setText, lines, setLines }: InsideProps) {
  const [error, setError] = useState("");
  const [busy, setBusy] = useState(false);
  const remember = useCommand(messageRoutes.rememberWords);
  const read = async (file: File | null) => {
    if (file && file.size > LARGEST_LIST) {
      const [size, limit] = [(file.size / 1e6).toFixed(1), LARGEST_LIST / 1e6];
      return setError(messageOf("file-too-large", { size, limit }));
    }
    setBusy(true);
    setError("");
    try {
      const list = file && { name: file.name, content: await base64Of(file) };
      const body = { customer: customer?.id ?? null, text: list ? "" : text, file: list };
      const answer = await call(messageRoutes.readMessage, { body });
      if (answer.lines.length === 0) setError("No lines found. Write a quantity and an item on each line.");
      else setLines(answer.lines.map(beginSettling));
    } catch (failure) {
      if (!(failure instanceof Error)) throw failure;
      setError(
        failure instanceof Refused ? (failure.answer.fields[0]?.message ?? failure.message) : failure.message,
      );
    } finally {
      setBusy(false);
    }
  };
  const take = async (settled: readonly Settling[]) => {
    const words = wordsToRemember(settled);
    if (customer && words.length > 0) {
      const saved = await remember.run({ params: { id: customer.id }, body: { words } });
      if (!saved) return;
    }
    onTake(takenLines(settled));
    setText("");
    setLines(null);
    onClose();
  };
  if (lines === null)
    return (
      <>
        {error && <Notice>{error}</Notice>}
        <TextField
          label="Paste a message, or rows of a spreadsheet"
          lines
          autoFocus
          value={text}
          onChange={setText}
          placeholder="12 first-year sets, 3 with large suits"
        />
        <Actions>
          <Button look="main" isDisabled={busy || text.trim() === ""} onPress={() => void read(null)}>
            Find the items
          </Button>
          <FileButton accept={[".csv", ".xlsx"]} onFile={(file) => void read(file)}>
            Read a file (CSV, XLSX)
          </FileButton>
        </Actions>
      </>
    );
  const change = (at: number, to: Partial<Settling>) =>
    setLines(lines.map((one, i) => (i === at ? { ...one, ...to } : one)));
  const open = lines.filter((one) => !isSettled(one)).length;
  const excess = tooMany(lines);
  const taken = takenLines(lines).length;
  return (
    <Settle
      lines={lines}
      excess={excess}
      refusal={remember.refusal?.message ?? ""}
      isKnown={customer !== null}
      onChange={change}
      onBack={() => setLines(null)}
      take={{
        isDisabled: open > 0 || excess.length > 0 || taken === 0,
        isPending: remember.busy,
        onPress: () => void take(lines),
      }}
    />
  );
}

interface SettleProps {
  lines: readonly Settling[];
  /** Places of lines that are part of the one before, and more than it asks for. */
  excess: readonly number[];
  refusal: string;
  /** The customer is chosen, for whom what is settled is remembered. */
  isKnown: boolean;
  onChange: (at: number, to: Partial<Settling>) => void;
  onBack: () => void;
  take: { isDisabled: boolean; isPending: boolean; onPress: () => void };
}

function Settle({ lines, excess, refusal, isKnown, onChange, onBack, take }: SettleProps) {
  const format = useFormat();
  const open = lines.filter((one) => !isSettled(one)).length;
  const taken = takenLines(lines).length;
  return (
    <>
      {refusal && <Notice>{refusal}</Notice>}
      <p role="status">
        {open === 0
          ? "All lines are settled."
          : `${format.count(open, "line", "lines")} to settle. ${isKnown ? "What you choose is remembered." : "Choose the customer first to have it remembered."}`}
      </p>
      <List aria-label="Lines read">
        {lines.map((one, i) => (
          <li key={one.place}>
            <SettleLine
              one={one}
              at={i}
              before={lines[one.line.changes[0]?.line ?? -1]}
              isTooMany={excess.includes(i)}
              format={format}
              onChange={(to) => onChange(i, to)}
            />
          </li>
        ))}
      </List>
      <Actions>
        <Button look="main" {...take}>
          Add {format.count(taken, "line", "lines")}
        </Button>
        <Button onPress={onBack}>Back to the message</Button>
      </Actions>
    </>
  );
}

interface SettleLineProps {
  one: Settling;
  at: number;
  /** The line that this one changes. */
  before: Settling | undefined;
  isTooMany: boolean;
  format: Format;
  onChange: (to: Partial<Settling>) => void;
}

function SettleLine({ one, at, before, isTooMany, format, onChange }: SettleLineProps) {
  const { line, quantity, item, isLeftOut } = one;
  const number = at + 1;
  if (isLeftOut)
    return (
      <Row style={{ alignItems: "center" }}>
        <s>{line.text}</s>
        <Button
          look="link"
          aria-label={`Take line ${number} again`}
          onPress={() => onChange({ isLeftOut: false })}
        >
          Take it again
        </Button>
      </Row>
    );
  return (
    <>
      <Written>
        {isSettled(one) ? null : <Short>to settle</Short>} “{line.text}”
      </Written>
      <Row>
        <AmountField
          label={`Quantity ${number}`}
          hideLabel
          width="130px"
          value={quantity}
          unit={item?.unit}
          onChange={(typed) => onChange({ quantity: typed })}
          error={isTooMany ? `${before?.line.text ?? "The line before"} asks for fewer.` : undefined}
        />
        <ItemField
          label={`Item ${number}`}
          hideLabel
          width="330px"
          choosing="selling"
          value={item}
          onChange={(chosen) => onChange({ item: chosen, change: null, isPart: false })}
        />
        <Button
          look="icon"
          aria-label={`Leave out line ${number}`}
          onPress={() => onChange({ isLeftOut: true })}
        >
          <X />
        </Button>
        {one.change && <Chosen>{changeWords(one.change, one.isPart, quantity, before, format)}</Chosen>}
        {line.price !== null && (
          <Chosen>at {format.unitCost(line.price, line.pricePer)}, as the list says</Chosen>
        )}
      </Row>
      {item === null && (
        <Offers
          line={line}
          number={number}
          quantity={quantity}
          before={before}
          format={format}
          onChange={onChange}
        />
      )}
    </>
  );
}

interface OffersProps {
  line: LineRead;
  number: number;
  quantity: string;
  before: Settling | undefined;
  format: Format;
  onChange: (to: Partial<Settling>) => void;
}

/** What a line may mean, each by one press. */
function Offers({ line, number, quantity, before, format, onChange }: OffersProps) {
  const kit = before?.item ?? null;
  if (line.changes.length > 0 && kit)
    return (
      <Offered>
        {line.changes.flatMap((change) =>
          [true, false].map((isPart) => (
            <Button
              key={`${change.swapped.id} ${isPart}`}
              onPress={() => onChange({ item: kit, change, isPart })}
            >
              {changeWords(change, isPart, quantity, before, format)}
            </Button>
          )),
        )}
      </Offered>
    );
  if (line.items.length === 0)
    return <Offered>No item is called so. Choose one, or leave the line out.</Offered>;
  return (
    <Offered>
      {line.items.map((item) => (
        <Button
          key={item.id}
          aria-label={`Line ${number} is ${item.code}`}
          onPress={() => onChange({ item })}
        >
          {item.code} · {item.name}
        </Button>
      ))}
    </Offered>
  );
}

function changeWords(
  { swapped, instead }: LineRead["changes"][number],
  isPart: boolean,
  quantity: string,
  before: Settling | undefined,
  format: Format,
): string {
  const of = isPart ? `of the ${format.amount(before?.quantity || "0")}` : "more";
  return `${[quantity && format.amount(quantity), of].filter(Boolean).join(" ")}, with ${swapped.code} instead of ${instead.code}`;
}

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  li {
    padding: 10px 0;
    border-top: 1px solid ${color.line};
  }
`;

const Written = styled.div`
  margin-bottom: 4px;
  overflow-wrap: anywhere;
`;

const Chosen = styled.span`
  align-self: center;
  color: ${color.ink2};
`;

const Offered = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-top: 4px;
  color: ${color.ink2};
  ${NARROW} {
    button {
      width: 100%;
    }
  }
`;
