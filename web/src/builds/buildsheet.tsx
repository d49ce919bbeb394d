import { type BuildSheet, buildRoutes } from "@yosegi/contract";
import { decimal, isOpen } from "@yosegi/core";
import { X } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { useCommand } from "../api/index.ts";
import { checkAddress } from "../cover/index.ts";
import { Files, Picture } from "../files/index.ts";
import {
  Actions,
  AskButton,
  Button,
  DueDay,
  Fact,
  Facts,
  type Format,
  Notice,
  Section,
  SheetTable,
  Short,
  Sub,
  sayDone,
  TileStrip,
  useFormat,
  useShortcut,
  useTitle,
  Written,
} from "../ui/index.ts";
import { CostSheet } from "./costsheet.tsx";
import { FinishForm } from "./finishform.tsx";
import { HandOut, HandOuts } from "./handout.tsx";
import { LeftOut, lineFigure, listedWords, PartCell } from "./linecells.tsx";
import { OrdersFollow } from "./ordersfollow.tsx";
import { Steps } from "./steps.tsx";

/** One build: what it is, what can be done with it now, its parts, and what was recorded. */
export function BuildSheetView({ build }: { build: BuildSheet }) {
  useTitle(build.number);
  const format = useFormat();
  const top = useRef<HTMLElement>(null);
  const at = `${build.stage} ${build.good} ${build.rejected}`;
  const [seen, setSeen] = useState(at);
  // What a step made of the build is told from the top on.
  useEffect(() => {
    if (at === seen) return;
    setSeen(at);
    top.current?.scrollIntoView();
  }, [at, seen]);
  return (
    <article ref={top}>
      {build.picture !== null && <Picture file={build.picture} of={build.product.name} />}
      <h1>
        {format.amount(build.quantity)} × {build.product.name}
      </h1>
      <Sub>
        {build.number} ·{" "}
        {build.history.map((h) => `${h.what} ${format.moment(h.moment)} by ${h.person}`).join(" · ")}
      </Sub>
      <BuildFacts build={build} />
      <StateNotice build={build} />
      {isOpen(build.stage) && build.orders.length > 0 && <OrdersFollow build={build} />}
      {build.stage === "draft" ? <Draft build={build} /> : <LeftOut build={build} />}
      {(build.stage === "queued" || build.stage === "on the bench") && <Worked build={build} />}
      {!isOpen(build.stage) && (
        <Actions style={{ marginTop: 0 }}>
          <Steps build={build} />
        </Actions>
      )}
      {build.instructions !== "" && (
        <Section title="Instructions">
          <Written>{build.instructions}</Written>
        </Section>
      )}
      <HandOuts build={build} />
      <CostSheet build={build} />
      <Section title="Files">
        <Files to="build" id={build.id} files={build.files} />
      </Section>
    </article>
  );
}

/** What is to be known of a build; what does not apply is left out. */
function BuildFacts({ build }: { build: BuildSheet }) {
  const format = useFormat();
  const { product, start, subcontractor, options } = build;
  const chosen = options.filter((option) => option.chosen);
  return (
    <Facts>
      <Fact name="Made so far">
        <TileStrip
          small
          wanted={build.quantity}
          there={build.good}
          rest="open"
          says={`${format.amount(build.good)} of ${format.amount(build.quantity)} made`}
        />
        {format.amount(build.good)} of {format.amount(build.quantity, product.unit)}
        {build.rejected !== "0" && `, ${format.amount(build.rejected)} rejected`}
        {build.takenApart !== "0" && `, ${format.amount(build.takenApart)} taken apart since`}
      </Fact>
      <Fact name="Stage">{build.stage}</Fact>
      <Fact name="Due">
        <DueDay day={build.due} late={build.overdue} />
      </Fact>
      {isOpen(build.stage) && start && start !== build.due && (
        <Fact name="Start by">{build.late ? <Short>{format.day(start)}</Short> : format.day(start)}</Fact>
      )}
      {(subcontractor || build.assigned) && (
        <Fact name="Assigned to">{subcontractor?.name ?? build.assigned?.name}</Fact>
      )}
      {build.orders.length > 0 && (
        <Fact name="For">
          <ForOrders build={build} />
        </Fact>
      )}
      {build.customer && (
        <Fact name="For">
          <Link to={`/customers/${build.customer.id}`}>{build.customer.name}</Link>
        </Fact>
      )}
      <Fact name="Product">
        <Link to={`/catalog/${product.id}`}>{product.code}</Link>
      </Fact>
      {build.list && (
        <Fact name="Parts list">
          <Link to={`/catalog/${product.id}/lists`}>
            {build.list.main ? "main list" : build.list.name}, revision {build.list.revision}
          </Link>
          {build.ownParts && ", changed for this build"}
        </Fact>
      )}
      {chosen.length > 0 && <Fact name="Options">{format.list(chosen.map((option) => option.name))}</Fact>}
      {build.wanted !== build.quantity && (
        <Fact name="Wanted">
          {format.amount(build.wanted)} good of {format.amount(build.quantity)} started
        </Fact>
      )}
      <Fact name="Put away in">{[build.store, build.bin].filter(Boolean).join(" ")}</Fact>
      {build.price && build.good === "0" && <Fact name="Price">{format.money(build.price)}</Fact>}
      {build.costTag && <Fact name="Cost tag">{build.costTag}</Fact>}
      {build.priority > 1 && <Fact name="Priority">{build.priority}</Fact>}
      {subcontractor && (
        <Fact name="Fee">
          <FeeWords build={build} />
        </Fact>
      )}
      <Relation name="Copied from" build={build.asBuilt} />
      <Relation name="Split from" build={build.splitFrom} />
      <Relation name="Joined into" build={build.joinedInto} />
      {build.note && <Fact name="Note">{build.note}</Fact>}
    </Facts>
  );
}

/** The orders it serves, each a way to go there, and to let go of it. */
function ForOrders({ build }: { build: BuildSheet }) {
  const format = useFormat();
  const unlink = useCommand(buildRoutes.unlinkOrder, () => sayDone(`${build.number} is unlinked.`));
  return (
    <>
      {build.orders.map((link) => (
        <ForOrder key={link.line}>
          {build.orders.length > 1 && `${format.amount(link.quantity)} `}
          <Link to={`/orders/${link.order}`}>{link.number}</Link> {link.customer.name}
          <AskButton
            look="icon"
            aria-label={`Unlink ${link.number}`}
            question={{
              title: `Unlink ${link.number}?`,
              text: `${format.amount(link.quantity)} of this build are no longer made for ${link.customer.name}.`,
              yes: "Unlink",
            }}
            onYes={() => void unlink.run({ params: { id: build.id }, body: { line: link.line } })}
          >
            <X />
          </AskButton>
        </ForOrder>
      ))}
      {unlink.refusal && <Notice>{unlink.refusal.message}</Notice>}
    </>
  );
}

const ForOrder = styled.div`
  display: flex;
  align-items: center;
  gap: 6px;
  button {
    margin: -9px 0;
  }
`;

/** Another build that this one came from or went into. */
function Relation({ name, build }: { name: string; build: BuildSheet["splitFrom"] }) {
  return (
    build && (
      <Fact name={name}>
        <Link to={`/builds/${build.id}`}>{build.number}</Link>
      </Fact>
    )
  );
}

/** What the subcontractor asks, and on which orders. */
function FeeWords({ build }: { build: BuildSheet }) {
  const format = useFormat();
  if (build.fee.orders.length === 0) return "not ordered yet";
  return (
    <>
      {format.money(build.fee.total)} on{" "}
      {build.fee.orders.map((order) => (
        <Link key={order.id} to={`/buying/${order.id}`}>
          {order.number}{" "}
        </Link>
      ))}
    </>
  );
}

/** Why it does not go on, where it does not. */
function StateNotice({ build }: { build: BuildSheet }) {
  const format = useFormat();
  if (!build.blocked) return null;
  return (
    <Notice role="status">
      Waiting for <b>{format.list(build.waitsFor)}</b>: earlier builds use up the stock.{" "}
      <Link
        to={checkAddress([
          { item: build.product.id, quantity: build.wanted, day: build.due, build: build.id },
        ])}
      >
        See when it comes, or order it
      </Link>
    </Notice>
  );
}

function Draft({ build }: { build: BuildSheet }) {
  const format = useFormat();
  const input = { params: { id: build.id } };
  const queue = useCommand(buildRoutes.queueBuild, () => sayDone(`${build.number} queued, parts reserved.`));
  useShortcut("q", "Queue the build", () => void queue.run(input));
  return (
    <>
      {queue.refusal && <Notice>{queue.refusal.message}</Notice>}
      <Actions style={{ marginTop: 0 }}>
        <Button look="main" isPending={queue.busy} onPress={() => void queue.run(input)}>
          Queue build
        </Button>
        <Steps build={build} />
      </Actions>
      <PlannedParts build={build} />
      <Sub>
        {partsWords(build)} {format.sentence(`Stock as of ${format.day(format.settings.today)}`)}
      </Sub>
    </>
  );
}

/** Where the parts of a draft come from. */
function partsWords({ ownParts, asBuilt, product }: BuildSheet): string {
  if (ownParts) return "This build has parts of its own.";
  return asBuilt
    ? `Uses the same parts as ${asBuilt.number}, scaled.`
    : `Parts follow the parts list of ${product.code} until the build is queued.`;
}

function Worked({ build }: { build: BuildSheet }) {
  return (
    <>
      <HandOut build={build} />
      <FinishForm
        // What happens to the build beside the form leaves it as it is; a finish begins the next one.
        key={build.finishes.length}
        build={build}
        steps={<Steps build={build} />}
      />
    </>
  );
}

/** Where a part is fetched from, when it is drawn, what its line says of it, and how it differs from the list. */
const whereAndHow = (build: BuildSheet, line: BuildSheet["lines"][number], format: Format) =>
  [
    listedWords(build, line, format),
    line.store,
    line.bin,
    line.drawnAt === "finish" && line.stocked && "drawn at finish",
    line.note,
  ]
    .filter(Boolean)
    .join(" · ");

function PlannedParts({ build }: { build: BuildSheet }) {
  const format = useFormat();
  return (
    <>
      <SheetTable
        label="Parts"
        rows={build.lines}
        rowId={(line) => line.line}
        columns={[
          {
            header: "Part",
            cell: (line) => <PartCell line={line} more={whereAndHow(build, line, format)} />,
          },
          { header: "Planned", end: true, cell: (line) => lineFigure(line, line.need, format) },
          {
            header: "On hand",
            end: true,
            cell: (line) => {
              if (line.onHand === null) return line.service ? "work" : "not stock-tracked";
              const figure = lineFigure(line, line.onHand, format);
              return decimal(line.onHand).lt(line.need) ? <Short>{figure}</Short> : figure;
            },
          },
        ]}
      />
      <LeftOut build={build} />
    </>
  );
}
