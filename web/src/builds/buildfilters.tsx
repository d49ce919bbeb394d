import type { BuildRow } from "@yosegi/contract";
import { BUILD_STAGES } from "@yosegi/core";
import { PersonFilter } from "../people/index.ts";
import { Filters, Select, TextField, useAddress } from "../ui/index.ts";
import type { BuildQuery } from "./queries.ts";

const ANY = "any";

/** How an open build may stand, whatever its stage; the rail leads here. */
const STATES = ["overdue", "blocked", "ready"] as const;

/** What the address narrows the builds to. */
export function useFilter(): { query: BuildQuery; narrowed: boolean } {
  const address = useAddress();
  const stage = BUILD_STAGES.find((s): s is BuildRow["stage"] => s === address.get("stage"));
  const [person, tag] = [Number(address.get("person")), address.get("tag")];
  const state = STATES.find((s) => s === address.get("state"));
  const query: BuildQuery = {
    ...(stage && { stage }),
    ...(state && { state }),
    ...(person > 0 && { person }),
    ...(tag !== "" && { tag }),
    ...(address.get("search") !== "" && { search: address.get("search") }),
  };
  return { query, narrowed: Object.keys(query).length > 0 };
}

/** Narrows the builds to a stage, a person, a cost tag. The product is found by the search above. */
export function BuildFilters() {
  const address = useAddress();
  return (
    <Filters>
      <Select
        label="Stage"
        hideLabel
        width="112px"
        value={address.get("state") || address.get("stage") || ANY}
        options={[
          { value: ANY, label: "Any stage" },
          ...BUILD_STAGES.map((s) => ({ value: s as string, label: s })),
          ...STATES.map((s) => ({ value: s as string, label: s })),
        ]}
        onChange={(value) => {
          const isState = STATES.some((s) => s === value);
          address.setAll({
            state: isState ? value : "",
            stage: isState || value === ANY ? "" : value,
          });
        }}
      />
      <PersonFilter label="Assigned to" width="104px" />
      <TextField
        label="Cost tag"
        hideLabel
        width="74px"
        placeholder="tag"
        value={address.get("tag")}
        onChange={(tag) => address.set("tag", tag)}
      />
    </Filters>
  );
}
