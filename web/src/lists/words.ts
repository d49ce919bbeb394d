import type { HeadField, LineField } from "@yosegi/core";

export const FIELD_WORDS: Record<LineField | HeadField, string> = {
  makes: "one batch makes",
  usual: "usual build",
  overhead: "overhead per unit",
  extra: "extra cost per build",
  yield: "expected yield",
  quantity: "quantity",
  unit: "unit",
  waste: "waste",
  oncePerBuild: "once per build",
  optional: "optional",
  drawnAt: "drawn at",
  store: "taken from",
  note: "note",
  share: "recovery share",
  person: "person",
  substitutes: "substitutes",
};
