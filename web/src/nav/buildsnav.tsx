import { SubNav } from "../ui/index.ts";

/** The pages of builds, side by side. */
export function BuildsNav() {
  return (
    <SubNav
      label="Pages of builds"
      pages={[
        { to: "/builds", name: "Builds" },
        { to: "/builds/calendar", name: "Calendar" },
        { to: "/builds/orders", name: "For orders" },
        { to: "/builds/several", name: "Several at once" },
        { to: "/builds/repeat", name: "Repeat" },
        { to: "/take-aparts", name: "Take-aparts" },
        { to: "/reworks", name: "Reworks" },
        { to: "/reworks/steps", name: "Rework steps" },
        { to: "/labels", name: "Label tray" },
      ]}
    />
  );
}
