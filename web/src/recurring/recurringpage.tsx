import type { RecurringBuild, StockTargetRow } from "@yosegi/contract";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Unanswered } from "../api/index.ts";
import { BuildsNav } from "../nav/index.ts";
import { Button, Page, Section, Sub, useFormat } from "../ui/index.ts";
import { useRecurring } from "./queries.ts";
import { RecurringDialog, RecurringTable } from "./recurringbuilds.tsx";
import { TargetDialog, TargetsTable } from "./targets.tsx";

/** What is built again and again: to target a stock, or on fixed days. */
export function RecurringPage() {
  const format = useFormat();
  const { data, error } = useRecurring();
  const [keeping, setKeeping] = useState<StockTargetRow | "new" | null>(null);
  const [recurring, setRecurring] = useState<RecurringBuild | "new" | null>(null);
  if (!data) return <Unanswered error={error} shape="table" />;
  // As they are now, while a form is open on what they were.
  const target =
    keeping === "new" ? null : (data.targets.find((t) => t.product.id === keeping?.product.id) ?? keeping);
  const build =
    recurring === "new" ? null : (data.recurring.find((r) => r.id === recurring?.id) ?? recurring);
  const low = data.targets.filter((rule) => rule.toBuild !== "0");
  return (
    <>
      <BuildsNav />
      <Page>
        <h1>
          {low.length === 0
            ? "Stock targets are met"
            : `${format.list(low.map((rule) => rule.product.name))} ${low.length === 1 ? "is" : "are"} to be built`}
        </h1>
        <Sub>We suggest a build when free stock plus open builds falls below the target.</Sub>
        <Section
          title="Stock targets"
          more={
            <Button onPress={() => setKeeping("new")}>
              <Plus /> Add stock target
            </Button>
          }
        >
          {data.targets.length === 0 ? (
            <p>No stock targets yet.</p>
          ) : (
            <TargetsTable rules={data.targets} onChange={setKeeping} />
          )}
        </Section>
        <Section
          title="Recurring builds"
          more={
            <Button onPress={() => setRecurring("new")}>
              <Plus /> Add recurring build
            </Button>
          }
        >
          {data.recurring.length === 0 ? (
            <p>Recurring builds create their draft automatically, e.g. a dozen every Monday.</p>
          ) : (
            <RecurringTable rows={data.recurring} onChange={setRecurring} />
          )}
        </Section>
        <TargetDialog rule={target} isOpen={keeping !== null} onClose={() => setKeeping(null)} />
        <RecurringDialog row={build} isOpen={recurring !== null} onClose={() => setRecurring(null)} />
      </Page>
    </>
  );
}
