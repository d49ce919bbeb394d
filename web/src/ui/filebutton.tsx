import type { ReactNode } from "react";
import { FileTrigger } from "react-aria-components";
import { Button } from "./button.tsx";

export interface FileButtonProps {
  children: ReactNode;
  "aria-label"?: string;
  /** Endings and types that are offered, such as ".csv". */
  accept: readonly string[];
  onFile: (file: File) => void;
}

/** A button that asks for one file. */
export function FileButton({ children, accept, onFile, ...props }: FileButtonProps) {
  return (
    <FileTrigger
      acceptedFileTypes={[...accept]}
      onSelect={(list) => {
        const [file] = list ?? [];
        if (file) onFile(file);
      }}
    >
      <Button {...props}>{children}</Button>
    </FileTrigger>
  );
}

/** The bytes of a file in base64, as commands take them. */
export async function base64Of(file: Blob): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let text = "";
  // fromCharCode takes only so many arguments at once
  for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192));
  return btoa(text);
}
