import { type Firm, type FirmKind, firmRoutes } from "@yosegi/contract";
import { codeKey, searchText } from "@yosegi/core";
import { use, useMemo } from "react";
import { call } from "../api/index.ts";
import { type FieldProps, ItemPicker } from "../ui/index.ts";
import { NewFirmContext } from "./newfirm.ts";
import { OFFERED, useFirmSearch } from "./queries.ts";
import { useTypedChoice } from "./typedchoice.ts";

export interface FirmFieldProps extends FieldProps {
  name?: string;
  kind: FirmKind;
  /** What was chosen; null while nothing is. */
  value: { id: number; name: string } | null;
  onChange: (firm: Firm | null) => void;
  autoFocus?: boolean;
  isDisabled?: boolean;
  placeholder?: string;
}

/** A field that takes a customer or supplier by name or code, and can make one that is not there yet. */
export function FirmField({ kind, value, onChange, error, ...field }: FirmFieldProps) {
  const NewFirmDialog = use(NewFirmContext);
  const find = async (typed: string) => {
    const answer = await call(firmRoutes.firms, { query: { kind, search: typed, limit: OFFERED } });
    const open = answer.firms.filter((firm) => !firm.archived);
    const exact = open.find(
      (firm) => codeKey(firm.code) === codeKey(typed) || searchText(firm.name) === searchText(typed.trim()),
    );
    const found = exact ?? (open.length === 1 ? open[0] : undefined);
    return found ?? `No ${kind} is called “${typed.trim()}”.`;
  };
  const choice = useTypedChoice<Firm>({ label: value?.name ?? "", find, onChange });
  const found = useFirmSearch(kind, choice.search).data?.firms;
  const firms = useMemo(() => (found ?? []).filter((firm) => !firm.archived), [found]);
  const offers = useMemo(
    () => firms.map(({ id, code, name }) => ({ id, code: "", name, free: code, why: null })),
    [firms],
  );
  return (
    <>
      <ItemPicker
        placeholder="Name or code"
        {...field}
        {...choice.picker}
        makeWords={`Create ${kind}`}
        error={choice.unknown ?? error}
        items={offers}
        onChoose={(picked) => {
          const firm = firms.find((one) => one.id === picked.id);
          if (firm) choice.choose(firm);
        }}
      />
      {NewFirmDialog && (
        <NewFirmDialog kind={kind} begin={choice.making} onClose={choice.onMadeEnd} onMade={choice.choose} />
      )}
    </>
  );
}
