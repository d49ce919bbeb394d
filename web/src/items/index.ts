export { Groups } from "./groups.tsx";
export { CopyItemDialog, EditItemDialog, NewItemDialog } from "./itemdialog.tsx";
export { useGroups } from "./queries.ts";
export { SuppliersSection } from "./suppliers.tsx";
export { Units } from "./units.tsx";
export { DRAWN_CHOICES, KIND_CHOICES, KIND_HELP, KIND_WORDS, LACK_WORDS } from "./words.ts";
