import type { z } from "zod";

const WRAPPERS = ["optional", "nullable", "default", "prefault", "readonly", "pipe"];

/** Whether a form can't be sent while the field at a path of its schema is empty; a yes or no, and a choice, never are. */
export function isRequiredIn(schema: z.ZodType, path: string): boolean {
  const found = path.split(".").reduce<z.ZodType | undefined>((at, key) => at && within(at, key), schema);
  if (found === undefined || !["string", "number"].includes(core(found).def.type)) return false;
  return [undefined, null, ""].every((empty) => !found.safeParse(empty).success);
}

/** What a schema is about, without what makes it optional. */
function core(schema: z.ZodType): z.ZodType {
  if (!WRAPPERS.includes(schema.def.type)) return schema;
  return core(
    schema.def.type === "pipe"
      ? (schema as z.ZodPipe<z.ZodType>).in
      : (schema as z.ZodOptional<z.ZodType>).unwrap(),
  );
}

function within(schema: z.ZodType, key: string): z.ZodType | undefined {
  const inner = core(schema);
  if (inner.def.type === "array") return (inner as z.ZodArray<z.ZodType>).element;
  return inner.def.type === "object"
    ? ((inner as z.ZodObject).shape[key] as z.ZodType | undefined)
    : undefined;
}
