import { useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { Dialog } from "./dialog.tsx";
import { Notice } from "./layout.tsx";
import { color } from "./theme.ts";

/** What browsers call their reader of codes; their types don't know it yet. */
interface Detector {
  detect(source: HTMLVideoElement): Promise<{ rawValue: string }[]>;
}
declare global {
  interface Window {
    BarcodeDetector?: new (options: { formats: string[] }) => Detector;
  }
}

const FORMATS = ["qr_code", "code_128", "ean_13", "ean_8", "code_39", "upc_a", "data_matrix"];
/** How often a picture is looked at. */
const EVERY_MS = 150;
/** The same code seen again within this time is the same label, still before the camera. */
const SAME_MS = 2500;

/** Reads codes with the device's camera, one after the other, until it is closed. */
export function CameraScan({ onScan, onClose }: { onScan: (code: string) => void; onClose: () => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const latest = useRef(onScan);
  const [fault, setFault] = useState("");
  useEffect(() => {
    latest.current = onScan;
  });
  useEffect(() => {
    let stream: MediaStream | null = null;
    let timer: ReturnType<typeof setInterval> | undefined;
    let closed = false;
    const start = async () => {
      const filmed = await navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } });
      // Closed before the camera was there: it is let go at once.
      if (closed) {
        for (const track of filmed.getTracks()) track.stop();
        return;
      }
      stream = filmed;
      const picture = video.current;
      if (!picture || !window.BarcodeDetector) return;
      picture.srcObject = stream;
      await picture.play();
      const detector = new window.BarcodeDetector({ formats: FORMATS });
      let seen = { code: "", at: 0 };
      timer = setInterval(() => {
        detector.detect(picture).then(
          ([found]) => {
            const code = found?.rawValue.trim() ?? "";
            const now = Date.now();
            if (code === "" || closed) return;
            const isSame = code === seen.code && now - seen.at < SAME_MS;
            seen = { code, at: now };
            if (!isSame) latest.current(code);
          },
          (error: Error) => setFault(`The camera can't read codes: ${error.message}`),
        );
      }, EVERY_MS);
    };
    start().catch((error: Error) => setFault(`The camera can't be used: ${error.message}`));
    return () => {
      closed = true;
      clearInterval(timer);
      for (const track of stream?.getTracks() ?? []) track.stop();
    };
  }, []);
  return (
    <Dialog title="Scan with the camera" isOpen onClose={onClose} width="420px">
      {fault ? <Notice>{fault}</Notice> : <Video ref={video} muted playsInline aria-label="Camera" />}
    </Dialog>
  );
}

const Video = styled.video`
  width: 100%;
  max-height: 60vh;
  background: ${color.sunk};
`;
