export * from "./buildspage.tsx";
export * from "./calendarpage.tsx";
export { FinishWith, type FinishWithProps } from "./finishwith.tsx";
export { RecordDialog, type RecordDialogProps } from "./recorddialog.tsx";
export * from "./severalpage.tsx";
