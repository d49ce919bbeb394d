import { Eye, Plus } from "lucide-react";
import { type Ref, useMemo, useState } from "react";
import { ComboBox, type Key, ListBox, ListBoxItem, Popover } from "react-aria-components";
import { flushSync } from "react-dom";
import styled from "styled-components";
import { Box, FieldError, type FieldProps, fieldColumn, Hint, Input, Label } from "./field.tsx";
import { useFieldState } from "./form.tsx";
import { choice, choices } from "./select.tsx";
import { useStillPointer } from "./stillpointer.ts";
import { color } from "./theme.ts";

const Column = styled(ComboBox)<{ $width?: string | undefined; $hideLabel?: boolean | undefined }>`
  ${fieldColumn}
`;
const Sheet = styled(Popover)`
  ${choices}
  min-width: max(var(--trigger-width), 340px);
`;
const Choice = styled(ListBoxItem)`
  ${choice}
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 16px;
  b {
    font-weight: 600;
  }
  small {
    font-size: 13px;
    color: ${color.ink2};
    grid-column: 1 / -1;
  }
  svg {
    width: 15px;
    height: 15px;
    vertical-align: -2px;
  }
`;
const Free = styled.span`
  text-align: right;
  color: ${color.ink2};
`;

/** An item as the picker offers it. */
export interface PickerItem {
  id: number;
  code: string;
  name: string;
  /** Such as "24 pc free"; "" where it makes no sense. */
  free: string;
  /** Why it cannot be chosen here; null where it can. */
  why: string | null;
}

export interface ItemPickerProps extends FieldProps {
  name?: string;
  items: readonly PickerItem[];
  /** What is not offered though it matches, such as "12 more match"; "" where all is. */
  more?: string;
  /** What is left out, as the words of a choice that shows it. */
  hidden?: string;
  onShowHidden?: () => void;
  text: string;
  onText: (text: string) => void;
  onChoose: (item: PickerItem) => void;
  /** The person goes on to something else. */
  onLeave: () => void;
  /** Offers to make a new item with what was typed. */
  onMake?: ((text: string) => void) | undefined;
  /** What the offer to make one is called, such as "Create item". */
  makeWords?: string;
  placeholder?: string | undefined;
  inputRef?: Ref<HTMLInputElement> | undefined;
  autoFocus?: boolean | undefined;
  isDisabled?: boolean | undefined;
}

const MAKE = -1;
const HIDDEN = -2;
const MORE = -3;
const NONE: readonly PickerItem[] = [];
/** What stands among the items and is none. */
const NO_ITEM: Omit<PickerItem, "id"> = { code: "", name: "", free: "", why: null };

/** Finds an item by code or name; shows what is free of it, says why one cannot be chosen, and can make a new one. */
export function ItemPicker({
  label,
  hideLabel,
  width,
  hint,
  error,
  name,
  items,
  more = "",
  hidden = "",
  onShowHidden,
  text,
  onText,
  onChoose,
  onLeave,
  onMake,
  makeWords = "Create item",
  placeholder = "Code or name",
  inputRef,
  autoFocus,
  isDisabled = false,
}: ItemPickerProps) {
  const { message, isRequired, touch } = useFieldState(name, label, error);
  const onTyped = useStillPointer();
  const type = (next: string) => {
    if (next !== text) {
      touch();
      onTyped();
      setChosen(false);
    }
    onText(next);
  };
  // A page has hundreds of pickers, and each list that is offered costs time: only the one in use has one.
  const [inUse, setInUse] = useState(false);
  // What was chosen is new text in the field, at which the list would open again over what comes next.
  const [isChosen, setChosen] = useState(false);
  const canMake = onMake !== undefined && text.trim() !== "";
  const offered = useMemo(() => {
    if (!inUse || isChosen) return NONE;
    return [
      ...items,
      ...(more === "" ? [] : [{ ...NO_ITEM, id: MORE, why: more }]),
      ...(hidden === "" ? [] : [{ ...NO_ITEM, id: HIDDEN, name: hidden }]),
      ...(canMake ? [{ ...NO_ITEM, id: MAKE, code: text.trim() }] : []),
    ];
  }, [inUse, isChosen, canMake, items, text, more, hidden]);
  const choose = (key: Key | Key[] | null) => {
    if (key === MAKE) return onMake?.(text.trim());
    if (key === HIDDEN) return onShowHidden?.();
    const item = items.find((i) => i.id === key);
    if (!item) return;
    setChosen(true);
    onChoose(item);
  };
  return (
    <Column
      $width={width}
      $hideLabel={hideLabel}
      items={offered}
      inputValue={text}
      onInputChange={type}
      value={null}
      onChange={choose}
      onFocus={() => setInUse(true)}
      onBlur={() => {
        setInUse(false);
        setChosen(false);
        onLeave();
      }}
      disabledKeys={offered.filter((item) => item.why !== null).map((item) => item.id)}
      defaultFilter={() => true}
      menuTrigger="input"
      allowsEmptyCollection={!isChosen}
      allowsCustomValue
      isDisabled={isDisabled}
      {...(autoFocus && { autoFocus })}
      {...(name !== undefined && { name })}
      isInvalid={message !== undefined}
      isRequired={isRequired}
      validationBehavior="aria"
    >
      <Label data-required={isRequired || undefined}>{label}</Label>
      <Box>
        <Input
          ref={inputRef}
          placeholder={placeholder}
          autoComplete="off"
          onFocus={(e) => e.target.select()}
          // An arrow asks for the list, which is to be there when it is opened.
          onKeyDownCapture={(e) => e.key.startsWith("Arrow") && flushSync(() => setChosen(false))}
        />
      </Box>
      {hint && <Hint>{hint}</Hint>}
      <FieldError>{message}</FieldError>
      <Sheet>
        <ListBox<PickerItem> renderEmptyState={() => <Empty>No items match.</Empty>}>
          {(item) =>
            item.id === MAKE ? (
              <Choice id={MAKE} textValue={text}>
                <span>
                  <Plus aria-hidden /> {makeWords} <b>{item.code}</b>
                </span>
              </Choice>
            ) : item.id === MORE ? (
              <Choice id={MORE} textValue={text}>
                <small>{item.why}</small>
              </Choice>
            ) : item.id === HIDDEN ? (
              <Choice id={HIDDEN} textValue={text}>
                <span>
                  <Eye aria-hidden /> {item.name}
                </span>
              </Choice>
            ) : (
              <Choice id={item.id} textValue={item.code || item.name}>
                <span>
                  {item.code !== "" && (
                    <>
                      <b>{item.code}</b> ·{" "}
                    </>
                  )}
                  {item.name}
                </span>
                <Free>{item.free}</Free>
                {item.why && <small>{item.why}</small>}
              </Choice>
            )
          }
        </ListBox>
      </Sheet>
    </Column>
  );
}

const Empty = styled.div`
  padding: 8px 12px;
  color: ${color.ink2};
`;
