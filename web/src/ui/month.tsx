import { CalendarDate, parseDate } from "@internationalized/date";
import { ChevronLeft, ChevronRight } from "lucide-react";
import { Calendar, CalendarCell, CalendarGrid, Heading, I18nProvider } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { useFormat } from "./format.ts";
import { color, focusRing, radius } from "./theme.ts";

/** A month to choose a day from. */
export function Month({ day, onChange }: { day: string; onChange: (day: string) => void }) {
  const { wording } = useFormat();
  return (
    <I18nProvider locale={wording}>
      <Calendar
        autoFocus
        aria-label="Day"
        defaultValue={parseDate(day)}
        onChange={(date) => onChange(new CalendarDate(date.year, date.month, date.day).toString())}
      >
        <Head>
          <Button look="icon" slot="previous" aria-label="Previous month">
            <ChevronLeft />
          </Button>
          <Heading />
          <Button look="icon" slot="next" aria-label="Next month">
            <ChevronRight />
          </Button>
        </Head>
        <CalendarGrid>{(date) => <Cell date={date} />}</CalendarGrid>
      </Calendar>
    </I18nProvider>
  );
}

const Head = styled.header`
  display: flex;
  align-items: center;
  justify-content: space-between;
  h2 {
    font-size: 16px;
  }
`;

const Cell = styled(CalendarCell)`
  width: 34px;
  height: 32px;
  display: grid;
  place-items: center;
  border-radius: ${radius};
  cursor: pointer;
  outline: none;
  &[data-outside-month] {
    display: none;
  }
  &[data-hovered] {
    background: ${color.sunk};
  }
  &[data-selected] {
    background: ${color.press};
    color: ${color.onPress};
  }
  &[data-focus-visible] {
    ${focusRing}
  }
`;
