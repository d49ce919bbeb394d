import type { BuildRow } from "@yosegi/contract";
import { MoreHorizontal } from "lucide-react";
import { useState } from "react";
import { useNavigate } from "react-router";
import { Unanswered } from "../api/index.ts";
import { BuildsNav } from "../nav/index.ts";
import {
  Button,
  DocumentPage,
  EmptyPage,
  EntryLink,
  MenuButton,
  Row,
  TileStrip,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { BuildFilters, useFilter } from "./buildfilters.tsx";
import { BuildSheetView } from "./buildsheet.tsx";
import { NewBuildDialog } from "./newbuilddialog.tsx";
import { useBuild, useBuilds } from "./queries.ts";
import { RecordDialog } from "./recorddialog.tsx";
import { buildWords, groupOf } from "./words.ts";

/** All builds, what is late first, and the one that is open. */
export function BuildsPage() {
  const navigate = useNavigate();
  const format = useFormat();
  const { query, narrowed } = useFilter();
  const { data, error } = useBuilds(query);
  const check = () => void navigate("/check");
  const [opened, setOpened] = useState<"record" | "own" | null>(null);
  const close = () => setOpened(null);
  const ways = [
    { id: "record", label: "Record a finished build …", onAction: () => setOpened("record") },
    { id: "own", label: "New build with its own parts …", onAction: () => setOpened("own") },
  ];
  useShortcut("n", "New build, from a check", check);
  if (!data) return <Unanswered error={error} shape="list" />;
  return (
    <DocumentPage
      label="Builds"
      path="/builds"
      nav={<BuildsNav />}
      pages={data}
      narrowed={narrowed}
      empty={
        <EmptyPage
          title="No builds yet"
          action={
            <Row>
              <Button look="main" onPress={check}>
                Check a product
              </Button>
              <Button onPress={() => setOpened("record")}>Record a finished build</Button>
            </Row>
          }
        >
          Start with a check: pick a product and quantity, then press Build.
        </EmptyPage>
      }
      choose="Select a build."
      groupOf={(build) => groupOf(build, format.settings.today)}
      filters={<BuildFilters />}
      none="No builds match these filters."
      onNew={check}
      moreNew={
        <MenuButton label="More ways to create a build" items={ways}>
          <MoreHorizontal />
        </MenuButton>
      }
      entry={(build, group, search) => <BuildEntry build={build} group={group} search={search} />}
      sheet={(id) => <OpenBuild id={id} />}
    >
      <RecordDialog isOpen={opened === "record"} onClose={close} />
      <NewBuildDialog isOpen={opened === "own"} onClose={close} />
    </DocumentPage>
  );
}

function OpenBuild({ id }: { id: number }) {
  const { data, error } = useBuild(id);
  return data ? <BuildSheetView build={data} /> : <Unanswered error={error} shape="sheet" />;
}

function BuildEntry({ build, group, search }: { build: BuildRow; group: string; search: string }) {
  const format = useFormat();
  return (
    <EntryLink to={{ pathname: `/builds/${build.id}`, search }}>
      <b>
        {format.amount(build.quantity)} × {build.product.name}
      </b>
      {build.stage !== "cancelled" && (
        <TileStrip
          small
          most={10}
          wanted={build.quantity}
          there={build.good}
          rest="open"
          says={`${format.amount(build.good)} of ${format.amount(build.quantity)} made`}
        />
      )}
      <span>
        {buildWords(build, format)}
        {build.due && ["Overdue", "Due later"].includes(group) && ` · ${format.day(build.due)}`}
      </span>
    </EntryLink>
  );
}
