import type { PickStop } from "@yosegi/contract";
import { fillsPacks, type Scanned } from "@yosegi/core";
import { Check } from "lucide-react";
import styled from "styled-components";
import { Button, color, type Format, font, HANDHELD, ScanLine, useFormat } from "../ui/index.ts";
import { pieceWords, sharesWords } from "./words.ts";

interface StopProps {
  stop: PickStop;
  scanned: Scanned;
  onScan: (code: string) => void;
  onTake: () => void;
  onOther: () => void;
}

/** The stop to go to: bin, item, quantity, and the one press that takes it. */
export function StopCard({ stop, scanned, onScan, onTake, onOther }: StopProps) {
  const format = useFormat();
  const { item } = stop;
  const sets = [...new Set(stop.shares.flatMap(({ set }) => set || []))];
  return (
    <Card aria-label="Go to">
      <CardHead>
        <div>
          <small>Go to {stop.store}</small>
          <Bin>{stop.bin || "–"}</Bin>
        </div>
        <div>
          <Quantity>{format.amount(stop.quantity, item.unit)}</Quantity>
          <small>of {format.amount(stop.inBin, item.unit)} there</small>
        </div>
      </CardHead>
      <b>{item.name}</b>
      <small>
        {[item.code, pieceWords(stop, format), sharesWords(stop, format)].filter(Boolean).join(" · ")}
        {packsWords(stop, format)}
      </small>
      {sets.map((set) => (
        <small key={set}>in {set}</small>
      ))}
      <Marks>
        <Mark $on={scanned.bin}>{scanned.bin && <Check aria-label="scanned" />} bin</Mark>
        <Mark $on={scanned.item}>{scanned.item && <Check aria-label="scanned" />} item</Mark>
        {item.tracking !== "none" && (
          <Mark $on={scanned.piece !== null}>
            {scanned.piece !== null && <Check aria-label="scanned" />} {scanned.piece ?? item.tracking}
          </Mark>
        )}
      </Marks>
      <ScanLine placeholder={`Scan ${scanned.bin ? item.code : stop.bin || item.code}`} onScan={onScan} />
      <Presses>
        <Button look="main" onPress={onTake}>
          Take {format.amount(stop.quantity, item.unit)}
        </Button>
        <Button onPress={onOther}>Other …</Button>
      </Presses>
    </Card>
  );
}

/** The quantity in the largest pack that it fills: " · 2 × box of 50". */
function packsWords({ item, quantity }: PickStop, format: Format): string {
  const found = fillsPacks(quantity, item.packs);
  return found ? ` · ${format.amount(found.count)} × ${found.name}` : "";
}

const Card = styled.section`
  display: flex;
  flex-direction: column;
  max-width: 560px;
  padding: 14px;
  background: ${color.sheet};
  border: 1px solid ${color.line};
  small {
    color: ${color.ink2};
    font-size: 14px;
  }
`;

const CardHead = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: end;
  margin-bottom: 8px;
  > div:last-child {
    text-align: end;
  }
`;

const Bin = styled.div`
  font: 700 40px/1 ${font.title};
`;

const Quantity = styled.div`
  font: 700 26px/1.1 ${font.title};
`;

const Marks = styled.div`
  display: flex;
  gap: 8px;
  margin: 8px 0;
`;

const Mark = styled.span<{ $on: boolean }>`
  display: inline-flex;
  align-items: center;
  gap: 4px;
  padding: 1px 10px;
  font-size: 14px;
  border: 1px solid ${({ $on }) => ($on ? color.ink : color.line)};
  background: ${({ $on }) => ($on ? color.sunk : "none")};
  svg {
    width: 15px;
  }
`;

const Presses = styled.div`
  display: flex;
  gap: 8px;
  margin-top: 10px;
  button {
    min-height: ${HANDHELD};
  }
  button:first-child {
    flex: 1;
  }
`;
