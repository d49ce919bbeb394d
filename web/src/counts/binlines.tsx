import { type CountLine, type CountSheet, countsRoutes } from "@yosegi/contract";
import { codeKey } from "@yosegi/core";
import { Check } from "lucide-react";
import { useRef, useState } from "react";
import styled from "styled-components";
import { useCommand } from "../api/index.ts";
import { QuantityField } from "../fields/index.ts";
import {
  Button,
  Checkbox,
  color,
  font,
  HANDHELD,
  NARROW,
  Notice,
  ScanLine,
  ScanSaid,
  Section,
  Select,
  useFormat,
  useScanSaid,
  useScans,
} from "../ui/index.ts";
import { binOf, movedWords } from "./words.ts";

const has = (line: CountLine, code: string): boolean =>
  [line.serial, line.lot, line.item.code, line.barcode].some(
    (own) => own !== "" && codeKey(own) === codeKey(code),
  );

/** What is in one bin after the other: counted by typing, with Enter to the next line, or by scans. */
export function BinLines({ count }: { count: CountSheet }) {
  const format = useFormat();
  const bins = [...Map.groupBy(count.sheet, binOf)];
  const firstOpen = bins.find(([, lines]) => lines.some((line) => line.counted === null))?.[0];
  const [chosen, setChosen] = useState<string | null>(null);
  const [said, say] = useScanSaid();
  const fields = useRef(new Map<number, HTMLElement>());
  const enter = useCommand(countsRoutes.enterCounts);
  const saving = useRef<Promise<unknown>>(Promise.resolve());
  const at = bins.find(([bin]) => bin === (chosen ?? firstOpen)) ?? bins[0];
  const next = bins.find(([bin, lines]) => bin !== at?.[0] && lines.some((line) => line.counted === null));
  const save = (line: CountLine, change: Partial<Pick<CountLine, "counted" | "before" | "reason">>) => {
    const { counted, before, reason } = { ...line, ...change };
    const lines = [{ line: line.id, counted, before, reason }];
    // A scanner is faster than an answer, and a command is sent once at a time.
    const saved = saving.current.then(() => enter.run({ params: { id: count.id }, body: { lines } }));
    saving.current = saved;
    return saved;
  };
  const focusOn = (line: CountLine) =>
    // The bin of the line may only now be shown.
    requestAnimationFrame(() => fields.current.get(line.id)?.querySelector("input")?.focus());
  const onScan = (code: string) => {
    const bin = bins.find(([, [first]]) => first && codeKey(first.bin) === codeKey(code));
    if (bin) {
      setChosen(bin[0]);
      return say(true, `Bin ${code}: ${format.count(bin[1].length, "line", "lines")}`);
    }
    const here = at?.[1].filter((line) => has(line, code)) ?? [];
    const found = here.find((line) => line.counted === null) ?? here[0];
    if (!found) return say(false, `${code} is not on the sheet for ${at?.[0]}.`);
    if (found.serial !== "" && codeKey(found.serial) === codeKey(code)) {
      void save(found, { counted: "1" });
      return say(true, `${found.serial} is there`);
    }
    focusOn(found);
    return say(true, `${found.item.code}: how many?`);
  };
  useScans(onScan);
  if (!at) return null;
  const [bin, lines] = at;
  const onEnter = (line: CountLine) => {
    const after = lines[lines.indexOf(line) + 1];
    if (after) focusOn(after);
    else if (next) {
      setChosen(next[0]);
      const [first] = next[1];
      if (first) focusOn(first);
    }
  };
  return (
    <Section
      title={bin}
      more={
        bins.length > 1 && (
          <Select
            label="Bin"
            hideLabel
            width="230px"
            value={bin}
            options={bins.map(([name, own]) => ({
              value: name,
              label: `${name} · ${own.filter((line) => line.counted !== null).length} of ${own.length}`,
            }))}
            onChange={setChosen}
          />
        )
      }
    >
      <ScanLine placeholder="Scan a bin, an item or a serial number" onScan={onScan} />
      <ScanSaid said={said} />
      {enter.refusal && enter.refusal.fields.length === 0 && <Notice>{enter.refusal.message}</Notice>}
      <List>
        {lines.map((line) => (
          <li
            key={line.id}
            ref={(element) => {
              if (element) fields.current.set(line.id, element);
              else fields.current.delete(line.id);
            }}
          >
            <Line
              line={line}
              error={enter.errors["lines.0.counted"]}
              onSave={(change) => save(line, change)}
              onEnter={() => onEnter(line)}
            />
          </li>
        ))}
      </List>
      {next && lines.every((line) => line.counted !== null) && (
        <Button onPress={() => setChosen(next[0])}>Go to {next[0]}</Button>
      )}
    </Section>
  );
}

interface LineProps {
  line: CountLine;
  error: string | undefined;
  onSave: (change: Partial<Pick<CountLine, "counted" | "before" | "reason">>) => Promise<unknown>;
  onEnter: () => void;
}

/** One line: what is there, saved when the field is left. */
function Line({ line, error, onSave, onEnter }: LineProps) {
  const format = useFormat();
  const { item, counted, books, before } = line;
  const [typed, setTyped] = useState(counted ?? "");
  const [shown, setShown] = useState(counted);
  const [isWrong, setWrong] = useState(false);
  // A scan, or somebody else, may have counted it meanwhile.
  if (shown !== counted) {
    setShown(counted);
    setTyped(counted ?? "");
    setWrong(false);
  }
  const moved = movedWords(line, format);
  const leave = async () => {
    const value = typed === "" ? null : typed;
    if (value === counted) return true;
    const saved = await onSave({ counted: value });
    setWrong(saved === null);
    return saved !== null;
  };
  return (
    <>
      <What>
        <b>{item.name}</b>
        <small>
          {[
            item.code,
            line.serial || line.lot,
            books !== null && `${format.amount(books, item.unit)} by the books`,
          ]
            .filter(Boolean)
            .join(" · ")}
        </small>
        {moved && counted === null && <small>{moved}</small>}
        {moved && counted !== null && (
          <Checkbox isSelected={before} onChange={(on) => void onSave({ before: on })}>
            {moved}: it was counted before that
          </Checkbox>
        )}
      </What>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void leave().then((saved) => saved && onEnter());
        }}
      >
        <QuantityField
          label={`Counted ${[item.code, line.serial || line.lot].filter(Boolean).join(" ")}`}
          hideLabel
          width="150px"
          unit={item.unit}
          packs={item.packs}
          value={typed}
          onChange={setTyped}
          onBlur={() => void leave()}
          error={isWrong ? error : undefined}
        />
      </form>
      <Done>{counted !== null && <Check aria-label="counted" />}</Done>
    </>
  );
}

const List = styled.ul`
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
  max-width: 720px;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 150px 24px;
    gap: 4px 12px;
    align-items: center;
    min-height: ${HANDHELD};
    padding: 6px 0;
    border-bottom: 1px solid ${color.line};
  }
  ${NARROW} {
    input {
      min-height: ${HANDHELD};
    }
    li {
      grid-template-columns: minmax(0, 1fr) 132px 22px;
    }
  }
`;

const What = styled.div`
  display: flex;
  flex-direction: column;
  font-family: ${font.text};
  small {
    color: ${color.ink2};
  }
`;

const Done = styled.span`
  svg {
    width: 20px;
  }
`;
