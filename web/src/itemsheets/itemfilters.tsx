import { SORTS } from "@yosegi/contract";
import type { ItemKind } from "@yosegi/core";
import styled from "styled-components";
import type { ItemsQuery } from "../fields/index.ts";
import { KIND_CHOICES, useGroups } from "../items/index.ts";
import { Button, Checkbox, Fold, Key, Select, TextField, useAddress } from "../ui/index.ts";

const KINDS: { value: ItemKind | "all"; label: string }[] = [
  { value: "all", label: "All kinds" },
  ...KIND_CHOICES,
];

const STATES = [
  { value: "now", label: "In use" },
  { value: "all", label: "All" },
  { value: "archived", label: "Archived" },
] as const;

/** What of the catalog is in view, as the address says it. */
export function useFilter() {
  const address = useAddress();
  const kind = KINDS.find((k) => k.value === address.get("kind"))?.value ?? "all";
  const state = STATES.find((s) => s.value === address.get("state"))?.value ?? "now";
  const sort = SORTS.find((s) => s === address.get("sort")) ?? "code";
  const query: ItemsQuery = {
    search: address.get("search"),
    ...(kind !== "all" && { kind }),
    ...(state !== "now" && { state }),
    ...(address.get("group") !== "" && { group: address.get("group") }),
    ...(address.get("lacking") === "yes" && { lacking: true }),
    sort,
    ...(address.get("descending") === "yes" && { descending: true }),
  };
  const narrowed = address.text !== "";
  return { address, kind, state, sort, query, narrowed };
}

interface FiltersProps {
  filter: ReturnType<typeof useFilter>;
  wide: boolean;
  onNew: () => void;
}

export function Filters({ filter, wide, onNew }: FiltersProps) {
  const { address, kind, state } = filter;
  const groups = useGroups().data?.groups ?? [];
  return (
    <Bar>
      <TextField
        label="Search"
        hideLabel
        placeholder="Search code, name or barcode"
        value={address.get("search")}
        onChange={(text) => address.set("search", text)}
      />
      <Fold summary="Filters" folds={!filter.narrowed}>
        <Select
          label="Kind"
          hideLabel
          width="140px"
          value={kind}
          options={KINDS}
          onChange={(next) => address.set("kind", next === "all" ? "" : next)}
        />
        {(wide || address.get("group") !== "") && groups.length > 0 && (
          <Select
            label="Group"
            hideLabel
            width="150px"
            value={address.get("group") === "" ? ALL : address.get("group")}
            options={[
              { value: ALL, label: "All groups" },
              ...groups.map((g) => ({ value: g.name, label: g.name })),
            ]}
            onChange={(next) => address.set("group", next === ALL ? "" : next)}
          />
        )}
        {wide && (
          <>
            <Select
              label="State"
              hideLabel
              width="112px"
              value={state}
              options={STATES}
              onChange={(next) => address.set("state", next === "now" ? "" : next)}
            />
            <Checkbox
              isSelected={address.get("lacking") === "yes"}
              onChange={(on) => address.set("lacking", on ? "yes" : "")}
            >
              Incomplete only
            </Checkbox>
          </>
        )}
      </Fold>
      <Button onPress={onNew}>
        New <Key>n</Key>
      </Button>
    </Bar>
  );
}

const ALL = "–";

const Bar = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  > :first-child {
    flex: 1 1 240px;
    max-width: 420px;
  }
`;
