import { type Firm, type FirmKind, routes } from "@yosegi/contract";
import { codeKey, searchText } from "@yosegi/core";
import { use, useState } from "react";
import { call } from "../api/index.ts";
import { type FieldProps, ItemPicker, sayFailed, useFormWait } from "../ui/index.ts";
import { NewFirmContext } from "./newfirm.ts";
import { useFirmSearch } from "./queries.ts";

const OFFERED = 40;

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
  const label = value?.name ?? "";
  // What is typed stands until it is left; then the field shows what was chosen.
  const [typed, setTyped] = useState<string | null>(null);
  const wait = useFormWait();
  const [unknown, setUnknown] = useState<string | undefined>(undefined);
  const [making, setMaking] = useState<string | null>(null);
  const text = typed ?? label;
  const search = typed === null || typed === label ? "" : typed;
  const firms = (useFirmSearch(kind, search).data?.firms ?? []).filter((firm) => !firm.archived);
  const choose = (firm: Firm) => {
    setTyped(null);
    setUnknown(undefined);
    onChange(firm);
  };
  const leave = async (): Promise<boolean | undefined> => {
    if (typed === null || typed === label) {
      setTyped(null);
      return undefined;
    }
    if (typed.trim() === "") {
      setTyped(null);
      onChange(null);
      return undefined;
    }
    const answer = await call(routes.firms, { query: { kind, search: typed, limit: OFFERED } }).catch(
      (e: Error) => sayFailed(e.message),
    );
    if (!answer) return false;
    const open = answer.firms.filter((firm) => !firm.archived);
    const exact = open.find(
      (firm) => codeKey(firm.code) === codeKey(typed) || searchText(firm.name) === searchText(typed.trim()),
    );
    const found = exact ?? (open.length === 1 ? open[0] : undefined);
    if (found) choose(found);
    else setUnknown(`No ${kind} is called “${typed.trim()}”.`);
    return found !== undefined;
  };
  return (
    <>
      <ItemPicker
        placeholder="Name or code"
        {...field}
        makeWords={`Create ${kind}`}
        error={unknown ?? error}
        items={firms.map(({ id, code, name }) => ({ id, code: "", name, free: code, why: null }))}
        text={text}
        onText={(next) => {
          if (next === text) return;
          setTyped(next);
          setUnknown(undefined);
        }}
        onChoose={(picked) => {
          const firm = firms.find((one) => one.id === picked.id);
          if (firm) choose(firm);
        }}
        onLeave={() => wait(leave())}
        onMake={setMaking}
      />
      {NewFirmDialog && (
        <NewFirmDialog kind={kind} begin={making} onClose={() => setMaking(null)} onMade={choose} />
      )}
    </>
  );
}
