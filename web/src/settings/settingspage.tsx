import { CustomFields } from "../customfields/index.ts";
import { Groups, Units } from "../items/index.ts";
import { PaperSettings } from "../papers/index.ts";
import { CompanySettings, People } from "../people/index.ts";
import { Stores } from "../stock/index.ts";
import { Page, Sub } from "../ui/index.ts";
import { Handhelds } from "./handhelds.tsx";
import { NoticeSettings } from "./noticesettings.tsx";
import { ThisDevice } from "./thisdevice.tsx";

/** What the company keeps to everywhere: itself, its people and stores, units of measure, groups and custom fields. */
export function SettingsPage() {
  return (
    <Page>
      <h1>Settings</h1>
      <Sub>The company, its people and stores, what its papers say; units, groups and custom fields.</Sub>
      <CompanySettings />
      <People />
      <Stores />
      <PaperSettings />
      <NoticeSettings />
      <ThisDevice />
      <Handhelds />
      <Units />
      <Groups />
      <CustomFields />
    </Page>
  );
}
