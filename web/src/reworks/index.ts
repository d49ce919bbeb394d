export { HeldUnits } from "./heldunits.tsx";
export { NewReworkDialog, type ReworkStart } from "./newdialog.tsx";
export { ReworksPage } from "./page.tsx";
export { SeveralReworksPage } from "./severalpage.tsx";
export { ReworkStepsPage } from "./stepspage.tsx";
