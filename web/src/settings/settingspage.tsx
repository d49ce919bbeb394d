import { CustomFields } from "../customfields/index.ts";
import { Groups, Units } from "../items/index.ts";
import { Page, Sub } from "../ui/index.ts";

/** What the company keeps to everywhere: units of measure, groups of items, and fields of its own. */
export function SettingsPage() {
  return (
    <Page>
      <h1>Settings</h1>
      <Sub>Units, groups and fields of your own, for every item, list, lot and serial.</Sub>
      <Units />
      <Groups />
      <CustomFields />
    </Page>
  );
}
