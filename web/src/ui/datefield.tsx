import { isDay } from "@yosegi/core";
import { CalendarDays } from "lucide-react";
import { lazy, Suspense, useState } from "react";
import { TextField as AriaTextField, Dialog, DialogTrigger, Popover } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { Box, FieldError, type FieldProps, fieldColumn, Hint, Input, Label, Suffix } from "./field.tsx";
import { useFieldState } from "./form.tsx";
import { useFormat } from "./format.ts";
import { color, radius } from "./theme.ts";

const Column = styled(AriaTextField)<{ $width?: string | undefined; $hideLabel?: boolean | undefined }>`
  ${fieldColumn}
`;

/** Loaded when a calendar is opened. */
const Month = lazy(async () => ({ default: (await import("./month.tsx")).Month }));

export interface DateFieldProps extends FieldProps {
  name?: string;
  /** A day such as "2026-12-12"; "" while empty; what was typed, where it is no day. */
  value: string;
  onChange: (value: string) => void;
}

/** A field for a day: type "t" for today, "fri" for the next Friday, "+10" for ten days on, "12 Dec", or open the calendar. */
export function DateField({ label, hideLabel, width, hint, error, value, onChange, name }: DateFieldProps) {
  const format = useFormat();
  const { message, isRequired, touch } = useFieldState(name, label, error);
  const [typed, setTyped] = useState<string | null>(null);
  const day = isDay(value) ? value : null;
  const shown = typed ?? (day ? format.day(day) : value);
  const change = (text: string) => {
    setTyped(text);
    touch();
    onChange(text.trim() === "" ? "" : (format.parseDay(text) ?? text));
  };
  return (
    <Column
      $width={width ?? "190px"}
      $hideLabel={hideLabel}
      value={shown}
      onChange={change}
      onBlur={() => setTyped(null)}
      {...(name !== undefined && { name })}
      isInvalid={message !== undefined}
      isRequired={isRequired}
      validationBehavior="aria"
    >
      <Label data-required={isRequired || undefined}>{label}</Label>
      <Box>
        <Input placeholder="t, fri, +10, 12 Dec" autoComplete="off" onFocus={(e) => e.target.select()} />
        {day && <Suffix>{typed === null ? format.relativeDay(day) : format.day(day)}</Suffix>}
        <DialogTrigger>
          <Button look="icon" slot={null} aria-label={`${label}: open the calendar`} excludeFromTabOrder>
            <CalendarDays />
          </Button>
          <Sheet placement="bottom end">
            <Dialog aria-label={label}>
              {({ close }) => (
                <Suspense>
                  <Month
                    day={day ?? format.settings.today}
                    onChange={(chosen) => {
                      setTyped(null);
                      touch();
                      onChange(chosen);
                      close();
                    }}
                  />
                </Suspense>
              )}
            </Dialog>
          </Sheet>
        </DialogTrigger>
      </Box>
      {hint && <Hint>{hint}</Hint>}
      <FieldError>{message}</FieldError>
    </Column>
  );
}

const Sheet = styled(Popover)`
  background: ${color.sheet};
  border: 1px solid ${color.line};
  border-radius: ${radius};
  padding: 10px;
  box-shadow: 0 8px 24px rgb(0 0 0 / 0.2);
  table {
    border-spacing: 2px;
  }
  th {
    font-size: 12.5px;
    color: ${color.ink2};
  }
`;
