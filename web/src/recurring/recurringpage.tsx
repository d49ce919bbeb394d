import type { KeepRule, StandingBuild } from "@yosegi/contract";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Failure } from "../api/index.ts";
import { BuildsNav } from "../nav/index.ts";
import { Button, Dialog, Page, Section, Sub, useFormat } from "../ui/index.ts";
import { useRepeats } from "./queries.ts";
import { StandingForm, StandingTable } from "./recurringbuilds.tsx";
import { KeepForm, KeepTable } from "./targets.tsx";

/** What is built again and again: to keep a stock, or on fixed days. */
export function RepeatsPage() {
  const format = useFormat();
  const { data, error } = useRepeats();
  const [keeping, setKeeping] = useState<KeepRule | "new" | null>(null);
  const [standing, setStanding] = useState<StandingBuild | "new" | null>(null);
  if (error) return <Failure error={error} />;
  if (!data) return null;
  const low = data.keep.filter((rule) => rule.toBuild !== "0");
  return (
    <>
      <BuildsNav />
      <Page>
        <h1>
          {low.length === 0
            ? "Nothing is to be built to keep the stock"
            : `${format.list(low.map((rule) => rule.product.name))} ${low.length === 1 ? "is" : "are"} to be built`}
        </h1>
        <Sub>
          A product is suggested when what is free, and what open builds will bring, falls below what is kept.
        </Sub>
        <Section
          title="Keep in stock"
          more={
            <Button onPress={() => setKeeping("new")}>
              <Plus /> Keep another product
            </Button>
          }
        >
          {data.keep.length === 0 ? (
            <p>No product is kept yet: say how many are to be there at least.</p>
          ) : (
            <KeepTable rules={data.keep} onChange={setKeeping} />
          )}
        </Section>
        <Section
          title="On fixed days"
          more={
            <Button onPress={() => setStanding("new")}>
              <Plus /> Another standing build
            </Button>
          }
        >
          {data.standing.length === 0 ? (
            <p>A dozen every Monday: a standing build makes its draft by itself on its day.</p>
          ) : (
            <StandingTable rows={data.standing} onChange={setStanding} />
          )}
        </Section>
        <Dialog
          title={keeping === "new" ? "Keep a product in stock" : `Keep ${keeping?.product.name ?? ""}`}
          isOpen={keeping !== null}
          onClose={() => setKeeping(null)}
        >
          {keeping && <KeepForm rule={keeping === "new" ? null : keeping} onClose={() => setKeeping(null)} />}
        </Dialog>
        <Dialog
          title={standing === "new" ? "New standing build" : "Change the standing build"}
          isOpen={standing !== null}
          onClose={() => setStanding(null)}
        >
          {standing && (
            <StandingForm row={standing === "new" ? null : standing} onClose={() => setStanding(null)} />
          )}
        </Dialog>
      </Page>
    </>
  );
}
