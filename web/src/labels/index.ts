export { ItemLabels } from "./itemlabels.tsx";
export { LabelsButton } from "./labelsbutton.tsx";
export { LabelsPage } from "./labelspage.tsx";
export { copiesOf } from "./words.ts";
