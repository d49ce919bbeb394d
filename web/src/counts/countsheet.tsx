import { type CountSheet, countsRoutes, stockRoutes } from "@yosegi/contract";
import { ClipboardCheck, Undo2 } from "lucide-react";
import { useState } from "react";
import { usePress } from "../api/index.ts";
import {
  Actions,
  Button,
  MenuButton,
  Notice,
  Section,
  Sub,
  sayDone,
  TileStrip,
  useAsk,
  useFormat,
  useTitle,
} from "../ui/index.ts";
import { BinLines } from "./binlines.tsx";
import { CountTable } from "./counttable.tsx";
import { FoundForm } from "./foundform.tsx";
import { countSentence, STATE_WORDS } from "./words.ts";

/** A count sheet: what was counted bin by bin, what differs, and the step that corrects the stock. */
export function CountSheetView({ count }: { count: CountSheet }) {
  useTitle(count.number);
  const format = useFormat();
  const isOpen = count.state === "open";
  return (
    <article>
      <h1>{countSentence(count, format)}</h1>
      <Sub>
        {[count.number, count.note, `started ${format.moment(count.moment)} by ${count.person}`]
          .filter(Boolean)
          .join(" · ")}
        {count.endedAt !== null &&
          ` · ${STATE_WORDS[count.state].toLowerCase()} ${format.moment(count.endedAt)} by ${count.endedBy}`}
      </Sub>
      <TileStrip
        wanted={String(count.lines)}
        there={String(count.counted)}
        rest="open"
        says={`${count.counted} of ${count.lines} lines counted`}
      />
      {count.state === "undone" && (
        <Notice role="status">This count was undone: the stock is as it was before it.</Notice>
      )}
      <Steps count={count} />
      {isOpen && <BinLines count={count} />}
      <Section title={isOpen ? "All lines" : "Counted"}>
        <CountTable count={count} />
      </Section>
    </article>
  );
}

function Steps({ count }: { count: CountSheet }) {
  const format = useFormat();
  const ask = useAsk();
  const [isFound, setFound] = useState(false);
  const post = usePress(countsRoutes.postCount, ({ number, differences }) =>
    sayDone(
      differences === 0
        ? `${number} posted. The books were right.`
        : `${number} posted: ${format.count(differences, "line", "lines")} of stock corrected.`,
    ),
  );
  const cancel = usePress(countsRoutes.cancelCount, ({ number }) =>
    sayDone(`${number} cancelled. Nothing was corrected.`),
  );
  const undo = usePress(stockRoutes.undoStock, () => sayDone(`${count.number} undone.`));
  const params = { id: count.id };
  const onPost = async () => {
    const left = count.lines - count.counted;
    const yes = await ask({
      title: `Post ${count.number}?`,
      text: `${countSentence(count, format)}${left > 0 ? ` ${format.count(left, "line is still to be counted and stays as it is.", "lines are still to be counted and stay as they are.")}` : ""}`,
      yes: "Correct the stock",
    });
    const { counted, differences, found, lost } = count;
    if (yes) await post.run({ params, body: { counted, differences, found, lost } });
  };
  const paper = () => void window.open(`/api/counts/${count.id}/paper`, "_blank", "noreferrer");
  if (count.state !== "open")
    return (
      <Actions>
        {count.state === "posted" && count.differences > 0 && (
          <Button isPending={undo.busy} onPress={() => void undo.run({ body: { document: count.number } })}>
            <Undo2 /> Undo
          </Button>
        )}
        <Button look="link" onPress={paper}>
          Count sheet (PDF)
        </Button>
      </Actions>
    );
  return (
    <Actions>
      <Button
        look="main"
        isPending={post.busy}
        isDisabled={count.counted === 0}
        onPress={() => void onPost()}
      >
        <ClipboardCheck /> Post the count
      </Button>
      <Button onPress={() => setFound(true)}>Add what was found …</Button>
      <MenuButton
        label={`Steps of ${count.number}`}
        items={[
          { id: "paper", label: "Count sheet (PDF)", onAction: paper },
          { id: "cancel", label: "Cancel the count", onAction: () => void cancel.run({ params }) },
        ]}
      >
        More …
      </MenuButton>
      {isFound && <FoundForm count={count} onClose={() => setFound(false)} />}
    </Actions>
  );
}
