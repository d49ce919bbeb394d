import type { BuildRow, buildRoutes } from "@yosegi/contract";
import { useNavigate, useParams } from "react-router";
import { type Pages, Unanswered } from "../api/index.ts";
import { BuildsNav } from "../nav/index.ts";
import {
  Button,
  Documents,
  EmptyPage,
  EntryLink,
  SplitPage,
  TileStrip,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { BuildFilters, useFilter } from "./buildfilters.tsx";
import { BuildSheetView } from "./buildsheet.tsx";
import { useBuild, useBuilds } from "./queries.ts";
import { buildWords, groupOf } from "./words.ts";

/** All builds, what is late first, and the one that is open. */
export function BuildsPage() {
  const { id } = useParams();
  const navigate = useNavigate();
  const { query, narrowed } = useFilter();
  const { data, error } = useBuilds(query);
  useShortcut("n", "New build, from a check", () => void navigate("/check"));
  if (!data) return <Unanswered error={error} />;
  if (data.total === 0 && !narrowed)
    return (
      <>
        <BuildsNav />
        <EmptyPage
          title="No builds yet"
          action={
            <Button look="main" onPress={() => void navigate("/check")}>
              Check a product
            </Button>
          }
        >
          Start with a check: pick a product and quantity, then press Build.
        </EmptyPage>
      </>
    );
  return (
    <>
      <BuildsNav />
      <SplitPage
        list={<List {...data} />}
        sheet={id === undefined ? <Choose /> : <OpenBuild key={id} id={Number(id)} />}
      />
    </>
  );
}

function Choose() {
  return <p style={{ color: "var(--ink2)" }}>Select a build.</p>;
}

function OpenBuild({ id }: { id: number }) {
  const { data, error } = useBuild(id);
  return data ? <BuildSheetView build={data} /> : <Unanswered error={error} />;
}

function List(pages: Pages<typeof buildRoutes.builds, BuildRow>) {
  const format = useFormat();
  const navigate = useNavigate();
  return (
    <Documents
      label="Builds"
      {...pages}
      groupOf={(build) => groupOf(build, format.settings.today)}
      filters={<BuildFilters />}
      none="No builds match these filters."
      onNew={() => void navigate("/check")}
    >
      {(build, group, search) => (
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
      )}
    </Documents>
  );
}
