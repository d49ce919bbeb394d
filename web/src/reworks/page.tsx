import type { ReworkRow } from "@yosegi/contract";
import { REWORK_STATES } from "@yosegi/core";
import { MoreHorizontal } from "lucide-react";
import { useState } from "react";
import { useNavigate } from "react-router";
import { Unanswered } from "../api/index.ts";
import { BuildsNav } from "../nav/index.ts";
import { PersonFilter } from "../people/index.ts";
import {
  Button,
  DocumentPage,
  EmptyPage,
  EntryLink,
  Filters,
  MenuButton,
  Select,
  useAddress,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { NewReworkDialog } from "./newdialog.tsx";
import { useRework, useReworks } from "./queries.ts";
import { ReworkView } from "./view.tsx";
import { reworkGroup } from "./words.ts";

const ANY = "any";
const LATE = "overdue";
const STATES = ["open", ...REWORK_STATES] as const;
const CHOICES: readonly string[] = [...STATES, LATE];

/** Reworks, what is late first, and the one that is open. */
export function ReworksPage() {
  const address = useAddress();
  const navigate = useNavigate();
  const [isNew, setNew] = useState(false);
  const state: (typeof STATES)[number] | "" = STATES.find((own) => own === address.get("state")) ?? "";
  const query = {
    search: address.get("search"),
    state,
    person: Number(address.get("person")),
    late: address.get("state") === LATE ? ("1" as const) : ("" as const),
  };
  const { data, error } = useReworks(query);
  useShortcut("n", "New rework", () => setNew(true));
  if (!data) return <Unanswered error={error} shape="list" />;
  return (
    <DocumentPage
      label="Reworks"
      path="/reworks"
      nav={<BuildsNav />}
      pages={data}
      narrowed={["search", "state", "person"].some((name) => address.get(name) !== "")}
      filters={<ReworkFilters />}
      empty={
        <EmptyPage
          title="No reworks yet"
          action={
            <Button look="main" onPress={() => setNew(true)}>
              New rework
            </Button>
          }
        >
          A returned or damaged unit, or a customer's own, goes in; parts and steps are added, and you see
          whether it pays.
        </EmptyPage>
      }
      choose="Select a rework."
      groupOf={reworkGroup}
      none="No reworks match."
      onNew={() => setNew(true)}
      moreNew={
        <MenuButton
          label="More to do with reworks"
          items={[
            {
              id: "several",
              label: "Finish several …",
              onAction: () => void navigate("/reworks/several"),
            },
          ]}
        >
          <MoreHorizontal />
        </MenuButton>
      }
      entry={(one, _, kept) => <Entry one={one} search={kept} />}
      sheet={(id) => <OpenRework id={id} />}
    >
      {isNew && (
        <NewReworkDialog
          start={{}}
          onClose={() => setNew(false)}
          onDone={({ id }) => void navigate(`/reworks/${id}`)}
        />
      )}
    </DocumentPage>
  );
}

function ReworkFilters() {
  const address = useAddress();
  return (
    <Filters>
      <Select
        label="State"
        hideLabel
        width="130px"
        value={address.get("state") || ANY}
        options={[{ value: ANY, label: "Any state" }, ...CHOICES.map((value) => ({ value, label: value }))]}
        onChange={(value) => address.set("state", value === ANY ? "" : value)}
      />
      <PersonFilter label="Assigned to" width="120px" />
    </Filters>
  );
}

function OpenRework({ id }: { id: number }) {
  const { data, error } = useRework(id);
  return data ? <ReworkView one={data} /> : <Unanswered error={error} shape="sheet" />;
}

function Entry({ one, search }: { one: ReworkRow; search: string }) {
  const format = useFormat();
  const { id, number, item, quantity, serials, customer, due, assigned } = one;
  return (
    <EntryLink to={{ pathname: `/reworks/${id}`, search }}>
      <b>
        {format.amount(quantity, item.unit)} {item.name}
      </b>
      <span>
        {[
          number,
          serials.length > 2 ? `${serials[0]} …` : serials.join(", "),
          customer?.name,
          due && `due ${format.day(due)}`,
          assigned?.name,
        ]
          .filter(Boolean)
          .join(" · ")}
      </span>
    </EntryLink>
  );
}
