import {
  type AttachedFile,
  fileRoutes,
  type ItemSheet,
  LARGEST_ATTACHMENT,
  messageOf,
  PICTURE_TYPES,
} from "@yosegi/contract";
import { ImagePlus, Paperclip, X } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { useCommand, usePress } from "../api/index.ts";
import {
  AskButton,
  base64Of,
  color,
  FileButton,
  Notice,
  sayDone,
  sayFailed,
  useFormat,
} from "../ui/index.ts";
import { fileAddress } from "./picture.tsx";

/** Files kept with an item, a parts list or a build. */
export function Files({
  to,
  id,
  files,
}: {
  to: "item" | "list" | "build";
  id: number;
  files: AttachedFile[];
}) {
  const format = useFormat();
  const [wrong, setWrong] = useState<string | null>(null);
  const attach = useCommand(fileRoutes.attachFile, (file) => sayDone(`${file.name} is attached.`));
  const remove = usePress(fileRoutes.removeFile, () => sayDone("The file is removed."));
  const add = async (file: File) => {
    setWrong(tooLarge(file));
    if (tooLarge(file)) return;
    const content = await base64Of(file);
    await attach.run({ body: { to, id, name: file.name, type: file.type, content, thumbnail: null } });
  };
  return (
    <>
      {files.length > 0 && (
        <List aria-label="Files">
          {files.map((file) => (
            <li key={file.id}>
              <Paperclip aria-hidden />
              <a href={fileAddress(file.id)} target="_blank" rel="noreferrer">
                {file.name}
              </a>
              <span>
                {format.amount(String(Math.ceil(file.size / 1000)))} kB, {file.person},{" "}
                {format.moment(file.moment)}
              </span>
              <AskButton
                look="icon"
                aria-label={`Remove ${file.name}`}
                question={{
                  title: `Remove ${file.name}?`,
                  text: "The file is deleted. It can't be brought back.",
                  yes: "Remove",
                }}
                onYes={() => void remove.run({ params: { id: file.id } })}
              >
                <X />
              </AskButton>
            </li>
          ))}
        </List>
      )}
      <FileButton accept={[]} onFile={(file) => void add(file)}>
        <Paperclip /> Attach a file
      </FileButton>
      {(wrong ?? attach.refusal?.message) && <Notice>{wrong ?? attach.refusal?.message}</Notice>}
    </>
  );
}

function tooLarge(file: File): string | null {
  if (file.size <= LARGEST_ATTACHMENT) return null;
  const [size, limit] = [(file.size / 1e6).toFixed(1), LARGEST_ATTACHMENT / 1e6];
  return messageOf("file-too-large", { size, limit });
}

/** Gives an item its picture. */
export function PictureButton({ item }: { item: ItemSheet }) {
  const attach = useCommand(fileRoutes.attachFile, () => sayDone(`${item.code} picture saved.`));
  const choose = async (file: File) => {
    const why = tooLarge(file);
    if (why) return sayFailed(why);
    const small = await thumbnailOf(file);
    if (small === null) return sayFailed(messageOf("file-type"));
    const body = {
      to: "picture" as const,
      id: item.id,
      name: file.name,
      type: file.type,
      content: await base64Of(file),
      thumbnail: await base64Of(small),
    };
    const done = await attach.run({ body });
    if (!done) sayFailed(messageOf("file-type"));
  };
  return (
    <FileButton accept={PICTURE_TYPES} onFile={(file) => void choose(file)}>
      <ImagePlus /> Picture
    </FileButton>
  );
}

/** Twice the size at which lists show it, for sharp screens. */
const THUMBNAIL = 120;

/** A small square of a picture; null where the file is none. */
async function thumbnailOf(file: File): Promise<Blob | null> {
  let picture: ImageBitmap;
  try {
    picture = await createImageBitmap(file);
  } catch (error) {
    if (error instanceof DOMException) return null;
    throw error;
  }
  const canvas = new OffscreenCanvas(THUMBNAIL, THUMBNAIL);
  const side = Math.min(picture.width, picture.height);
  const [x, y] = [(picture.width - side) / 2, (picture.height - side) / 2];
  canvas.getContext("2d")?.drawImage(picture, x, y, side, side, 0, 0, THUMBNAIL, THUMBNAIL);
  return canvas.convertToBlob({ type: "image/png" });
}

const List = styled.ul`
  list-style: none;
  margin: 6px 0 10px;
  padding: 0;
  li {
    display: flex;
    gap: 8px;
    align-items: center;
  }
  span {
    color: ${color.ink2};
    font-size: 13px;
  }
  li > svg {
    width: 15px;
    flex: none;
    color: ${color.ink3};
  }
`;
