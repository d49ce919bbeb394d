import { type CoverQuestion, cost } from "@yosegi/contract";
import { isDay } from "@yosegi/core";
import { useState } from "react";
import styled from "styled-components";
import { AmountField, Button, color, DateField, Row, Section, useFormat } from "../ui/index.ts";
import { useMostByDay, useMostForSum } from "./queries.ts";

/** The question the other way round: how many by a day, and how many for a sum. */
export function OtherWay({
  question,
  unit,
  onUse,
}: {
  question: CoverQuestion;
  unit: string;
  /** Asks for that many instead. */
  onUse: (quantity: string) => void;
}) {
  const format = useFormat();
  const [day, setDay] = useState("");
  const [sum, setSum] = useState("");
  const byDay = useMostByDay(question, day);
  const readable = cost.safeParse(sum);
  const bySum = useMostForSum(question, sum);
  const words = (quantity: string | null | undefined) =>
    quantity === undefined ? "" : quantity === null ? "as many as are wanted" : format.amount(quantity, unit);
  // What is to be bought for that many stands below as soon as they are asked for.
  const use = (quantity: string | null | undefined) =>
    quantity &&
    quantity !== "0" &&
    quantity !== question.demands[0]?.quantity && (
      <Use look="link" onPress={() => onUse(quantity)}>
        Check {format.amount(quantity)}
      </Use>
    );
  return (
    <Screen>
      <Section title="Work backwards">
        <Row $gap="28px">
          <Pair>
            <DateField
              label="Most by date"
              value={day}
              onChange={setDay}
              error={day === "" || isDay(day) ? undefined : `“${day}” isn't a date.`}
            />
            <Answer aria-live="polite">{isDay(day) && words(byDay.data?.quantity)}</Answer>
            {isDay(day) && use(byDay.data?.quantity)}
          </Pair>
          <Pair>
            <AmountField
              label="Most for budget"
              width="180px"
              unit={format.settings.currency}
              value={sum}
              onChange={setSum}
              error={sum === "" ? undefined : readable.error?.issues[0]?.message}
            />
            <Answer aria-live="polite">{readable.success && words(bySum.data?.quantity)}</Answer>
            {readable.success && use(bySum.data?.quantity)}
          </Pair>
        </Row>
      </Section>
    </Screen>
  );
}

/** A question that has no place on paper. */
const Screen = styled.div`
  @media print {
    display: none;
  }
`;

const Use = styled(Button)`
  margin-top: 20px;
`;

const Pair = styled.div`
  display: flex;
  gap: 12px;
`;
const Answer = styled.b`
  padding-top: 28px;
  min-width: 110px;
  color: ${color.ink};
`;
