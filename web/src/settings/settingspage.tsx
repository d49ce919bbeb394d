import { Page, Sub } from "../ui/index.ts";
import { Groups } from "./groups.tsx";
import { OwnFields } from "./ownfields.tsx";
import { Units } from "./units.tsx";

/** What the company keeps to everywhere: units of measure, groups of items, and fields of its own. */
export function SettingsPage() {
  return (
    <Page>
      <h1>Settings</h1>
      <Sub>Units, groups and fields of your own, for every item, list, lot and serial.</Sub>
      <Units />
      <Groups />
      <OwnFields />
    </Page>
  );
}
