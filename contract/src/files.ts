import { id, moment, ref } from "./fields.ts";
import { ask, command } from "./route.ts";
import { z } from "./zod.ts";

/** The largest file that can be attached, in bytes. */
export const LARGEST_ATTACHMENT = 10_000_000;
export const PICTURE_TYPES = ["image/png", "image/jpeg", "image/webp"] as const;

export const attachedFile = z.object({
  id: ref,
  name: z.string(),
  type: z.string(),
  size: z.int(),
  person: z.string(),
  moment,
});
export type AttachedFile = z.infer<typeof attachedFile>;

const base64 = z.base64("The content is not in base64.");

export const fileRoutes = {
  attachFile: command("/api/files", {
    permission: "items",
    summary: "Attach a file to an item, a parts list or a build, or give an item its picture",
    body: z.object({
      to: z.enum(["item", "list", "build", "picture"]),
      id: ref,
      name: z.string().trim().min(1, "The file has no name.").max(200, "The name is too long."),
      type: z.string().max(100),
      content: base64,
      thumbnail: base64.nullable().meta({ description: "A small one of a picture, for lists" }),
    }),
    answer: attachedFile,
  }),
  removeFile: command("/api/files/:id/remove", {
    permission: "items",
    summary: "Remove an attached file or a picture",
    params: z.object({ id }),
    answer: z.object({}),
  }),
  file: ask("/api/files/:id", {
    permission: "look",
    summary: "The content of a file",
    params: z.object({ id }),
    query: z.object({ small: z.stringbool().default(false) }),
    answer: z.string().meta({ description: "The bytes of the file, in its own type" }),
  }),
};
