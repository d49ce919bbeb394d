import { useQuery } from "@tanstack/react-query";
import { type AnswerOf, type OrderSheet, orderRoutes } from "@yosegi/contract";
import { useState } from "react";
import { following, useCommand, useSettled } from "../api/index.ts";
import { wholeNumber } from "../forms/index.ts";
import { Actions, AmountField, AnswerPart, Button, Notice, Short, sayDone, useFormat } from "../ui/index.ts";
import { dayWords, isLater } from "./promisewords.ts";

/** Serves an order before others; says first whose promise that moves. */
export function PrecedenceForm({ order, onDone }: { order: OrderSheet; onDone: () => void }) {
  const [typed, setTyped] = useState(String(order.precedence ?? 1));
  const { settled, overtaken } = useSettled(typed);
  const moves = useQuery({
    ...following(orderRoutes.precedenceMoves, {
      params: { id: order.id },
      body: { precedence: wholeNumber(settled) },
    }),
    retry: false,
  });
  const set = useCommand(orderRoutes.setPrecedence, (saved) => {
    sayDone(
      saved.precedence === null
        ? `${saved.number} is served by due date again.`
        : `${saved.number} has precedence ${saved.precedence}.`,
    );
    onDone();
  });
  const run = (precedence: number | null) =>
    void set.run({ params: { id: order.id }, body: { precedence }, version: order.version });
  return (
    <>
      {set.refusal && <Notice>{set.refusal.message}</Notice>}
      <p>Stock goes to orders with a precedence first, 1 before 2, then to all others by due date.</p>
      <AmountField
        label="Precedence"
        width="140px"
        value={typed}
        onChange={setTyped}
        error={moves.error ? moves.error.message : undefined}
        autoFocus
      />
      <AnswerPart $old={overtaken || moves.isPlaceholderData} aria-live="polite">
        {moves.data && <Moves answer={moves.data} number={order.number} />}
      </AnswerPart>
      <Actions>
        <Button
          look="main"
          isPending={set.busy}
          isDisabled={moves.error !== null || typed === ""}
          onPress={() => run(wholeNumber(typed))}
        >
          Give precedence {typed}
        </Button>
        {order.precedence !== null && <Button onPress={() => run(null)}>Remove precedence</Button>}
        <Button onPress={onDone}>Cancel</Button>
      </Actions>
    </>
  );
}

/** When the order could leave then, and whose promise moves. */
function Moves({ answer, number }: { answer: AnswerOf<typeof orderRoutes.precedenceMoves>; number: string }) {
  const format = useFormat();
  const { day, moves } = answer;
  return (
    <>
      <p>
        {format.sentence(`${number} can then leave ${dayWords(day, format)}`)}{" "}
        {moves.length === 0
          ? "No other order moves."
          : `${format.count(moves.length, "other order moves", "other orders move")}:`}
      </p>
      {moves.length > 0 && (
        <ul>
          {moves.map((moved) => (
            <li key={moved.id}>
              {moved.number} ({moved.customer}): {dayWords(moved.before, format)} →{" "}
              {moved.before !== null && isLater(moved.after, moved.before) ? (
                <Short>{dayWords(moved.after, format)}</Short>
              ) : (
                dayWords(moved.after, format)
              )}
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
