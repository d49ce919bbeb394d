import type { BuildRow } from "@yosegi/contract";
import { useNavigate, useParams } from "react-router";
import { Failure } from "../api/index.ts";
import {
  Button,
  EmptyPage,
  Entries,
  EntryGroup,
  EntryLink,
  Key,
  SplitPage,
  TextField,
  TileStrip,
  useAsked,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { BuildFilters, useFilter } from "./buildfilters.tsx";
import { BuildSheetView } from "./buildsheet.tsx";
import { BuildsNav } from "./buildsnav.tsx";
import { useBuild, useBuilds } from "./queries.ts";
import { buildWords, groupOf } from "./words.ts";

/** All builds, what is late first, and the one that is open. */
export function BuildsPage() {
  const { id } = useParams();
  const navigate = useNavigate();
  const { query, narrowed } = useFilter();
  const { data, error } = useBuilds(query);
  useShortcut("n", "New build, from a check", () => void navigate("/check"));
  if (error) return <Failure error={error} />;
  if (!data) return null;
  if (data.builds.length === 0 && !narrowed)
    return (
      <>
        <BuildsNav />
        <EmptyPage
          title="What is to be made, and what was"
          action={
            <Button look="main" onPress={() => void navigate("/check")}>
              Check a product
            </Button>
          }
        >
          A build begins with a check: choose a product and a quantity, see whether the parts suffice, and
          press “Build”.
        </EmptyPage>
      </>
    );
  return (
    <>
      <BuildsNav />
      <SplitPage
        list={<List builds={data.builds} />}
        sheet={id === undefined ? <Choose /> : <OpenBuild key={id} id={Number(id)} />}
      />
    </>
  );
}

function Choose() {
  return <p style={{ color: "var(--ink2)" }}>Choose a build on the left.</p>;
}

function OpenBuild({ id }: { id: number }) {
  const { data, error } = useBuild(id);
  if (error) return <Failure error={error} />;
  return data ? <BuildSheetView build={data} /> : null;
}

function List({ builds }: { builds: BuildRow[] }) {
  const { id } = useParams();
  const format = useFormat();
  const navigate = useNavigate();
  const asked = useAsked();
  const text = asked.get("search");
  const wanted = text.trim().toLowerCase();
  const shown = builds.filter((b) =>
    `${b.number} ${b.product.code} ${b.product.name}`.toLowerCase().includes(wanted),
  );
  const groups = Map.groupBy(shown, (build) => groupOf(build, format.settings.today));
  return (
    <Entries
      alone={id === undefined}
      label="Builds"
      filter={
        <>
          <TextField
            label="Filter builds"
            hideLabel
            placeholder="Filter builds"
            value={text}
            onChange={(next) => asked.set("search", next)}
          />
          <Button onPress={() => void navigate("/check")}>
            New <Key>n</Key>
          </Button>
        </>
      }
    >
      <BuildFilters />
      {[...groups].map(([group, members]) => (
        <EntryGroup key={group} title={group} late={group === "Overdue"}>
          {members.map((build) => (
            <EntryLink key={build.id} to={{ pathname: `/builds/${build.id}`, search: asked.text }}>
              <b>
                {format.amount(build.quantity)} × {build.product.name}
              </b>
              {build.stage !== "cancelled" && (
                <TileStrip
                  small
                  most={10}
                  wanted={build.quantity}
                  there={build.good}
                  says={`${format.amount(build.good)} of ${format.amount(build.quantity)} made`}
                />
              )}
              <span>
                {buildWords(build, format)}
                {build.due && ["Overdue", "Due later"].includes(group) && ` · ${format.day(build.due)}`}
              </span>
            </EntryLink>
          ))}
        </EntryGroup>
      ))}
      {shown.length === 0 && <p>No build is like this. Ask for fewer things at once.</p>}
    </Entries>
  );
}
