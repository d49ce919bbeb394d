import type { TakeApartRow } from "@yosegi/contract";
import { useState } from "react";
import { useNavigate } from "react-router";
import { Unanswered } from "../api/index.ts";
import { BuildsNav } from "../nav/index.ts";
import {
  Button,
  DocumentPage,
  EmptyPage,
  EntryLink,
  useAddress,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { TakeApartDialog } from "./dialog.tsx";
import { useTakeApart, useTakeAparts } from "./queries.ts";
import { TakeApartView } from "./view.tsx";

/** Take-aparts, the latest first, and the one that is open. */
export function TakeApartsPage() {
  const search = useAddress().get("search");
  const navigate = useNavigate();
  const [isNew, setNew] = useState(false);
  const { data, error } = useTakeAparts(search);
  useShortcut("n", "Take apart", () => setNew(true));
  if (!data) return <Unanswered error={error} shape="list" />;
  return (
    <DocumentPage
      label="Take-aparts"
      path="/take-aparts"
      nav={<BuildsNav />}
      pages={data}
      narrowed={search !== ""}
      empty={
        <EmptyPage
          title="No take-aparts yet"
          action={<Button onPress={() => setNew(true)}>Take apart</Button>}
        >
          Choose a product, best by the lot or serial number: its good parts come back to stock with their
          share of its value.
        </EmptyPage>
      }
      choose="Select a take-apart."
      groupOf={({ undone }) => (undone ? "Undone" : "Taken apart")}
      none="None match."
      onNew={() => setNew(true)}
      entry={(one, _, kept) => <Entry one={one} search={kept} />}
      sheet={(id) => <OpenTakeApart id={id} />}
    >
      {isNew && (
        <TakeApartDialog
          start={{}}
          onClose={() => setNew(false)}
          onDone={({ id }) => void navigate(`/take-aparts/${id}`)}
        />
      )}
    </DocumentPage>
  );
}

function OpenTakeApart({ id }: { id: number }) {
  const { data, error } = useTakeApart(id);
  return data ? <TakeApartView one={data} /> : <Unanswered error={error} shape="sheet" />;
}

function Entry({ one, search }: { one: TakeApartRow; search: string }) {
  const format = useFormat();
  const { id, number, item, quantity, lot, serial, day, person } = one;
  return (
    <EntryLink to={{ pathname: `/take-aparts/${id}`, search }}>
      <b>
        {format.amount(quantity, item.unit)} {item.name}
      </b>
      <span>{[number, serial || lot, format.day(day), person].filter(Boolean).join(" · ")}</span>
    </EntryLink>
  );
}
