import { Camera, Check, TriangleAlert } from "lucide-react";
import { lazy, Suspense, useState } from "react";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { signal } from "./signal.ts";
import { color, focusRing, HANDHELD } from "./theme.ts";

const CameraScan = lazy(async () => ({ default: (await import("./camerascan.tsx")).CameraScan }));

/** Whether this browser reads codes with the device's camera; some do only from a secure address. */
const hasCamera = (): boolean =>
  "BarcodeDetector" in window && navigator.mediaDevices?.getUserMedia !== undefined;

interface ScanLineProps {
  placeholder: string;
  onScan: (code: string) => void;
}

/** A field that takes one code after the other, typed, scanned into it, or read by the device's camera. */
export function ScanLine({ placeholder, onScan }: ScanLineProps) {
  const [text, setText] = useState("");
  const [isFilming, setFilming] = useState(false);
  return (
    <Line>
      <Input
        aria-label="Scan"
        placeholder={placeholder}
        value={text}
        autoComplete="off"
        autoCapitalize="characters"
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== "Enter") return;
          // It may stand within a form, which a code must not send.
          event.preventDefault();
          event.stopPropagation();
          const code = text.trim();
          setText("");
          if (code !== "") onScan(code);
        }}
      />
      {hasCamera() && (
        <Button look="icon" aria-label="Scan with the camera" onPress={() => setFilming(true)}>
          <Camera />
        </Button>
      )}
      {isFilming && (
        <Suspense>
          <CameraScan onScan={onScan} onClose={() => setFilming(false)} />
        </Suspense>
      )}
    </Line>
  );
}

/** What was made of a scan. */
export interface Said {
  ok: boolean;
  words: string;
}

/** What was made of the last scan, and how to say it: in words, with a sign and a sound. */
export function useScanSaid(): [said: Said | null, say: (ok: boolean, words: string) => void] {
  const [said, setSaid] = useState<Said | null>(null);
  const say = (ok: boolean, words: string) => {
    setSaid({ ok, words });
    signal(ok);
  };
  return [said, say];
}

/** What was made of the last scan; it keeps its place while there was none. */
export function ScanSaid({ said }: { said: Said | null }) {
  return (
    <Words role="status" $ok={said?.ok ?? true}>
      {said && (
        <>
          {said.ok ? <Check aria-label="Right:" /> : <TriangleAlert aria-label="Wrong:" />} {said.words}
        </>
      )}
    </Words>
  );
}

const Line = styled.div`
  display: flex;
  gap: 6px;
  align-items: center;
`;

const Input = styled.input`
  flex: 1;
  min-width: 0;
  min-height: ${HANDHELD};
  padding: 7px 11px;
  border: 1px solid ${color.line};
  background: ${color.paper};
  color: ${color.ink};
  font: inherit;
  &:focus {
    ${focusRing}
  }
  &::placeholder {
    color: ${color.ink3};
    opacity: 1;
  }
`;

const Words = styled.p<{ $ok: boolean }>`
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 28px;
  margin: 2px 0;
  font-weight: 650;
  color: ${({ $ok }) => ($ok ? color.ink : color.lacquer)};
  svg {
    width: 20px;
    flex: none;
  }
`;
