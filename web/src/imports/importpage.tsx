import {
  DECIMAL_MARKS,
  IMPORT_COLUMNS,
  IMPORT_KINDS,
  IMPORT_NAMES,
  type ImportFile,
  type ImportKind,
  type ImportReport,
  LARGEST_FILE,
  messageOf,
  NEEDED_COLUMNS,
  routes,
} from "@yosegi/contract";
import { FileDown, FileSpreadsheet, FileUp, X } from "lucide-react";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { call, NoAnswer, newKey, Refused, useCommand } from "../api/index.ts";
import { CatalogNav } from "../catalog/index.ts";
import { Progress } from "../jobs/index.ts";
import {
  Actions,
  Button,
  base64Of,
  Checkbox,
  color,
  FileButton,
  Notice,
  Page,
  Select,
  Short,
  Sub,
  sayDone,
  useFormat,
} from "../ui/index.ts";
import { Changes, Problems } from "./problems.tsx";

const TITLES: Record<ImportKind, string> = {
  suppliers: "Suppliers",
  customers: "Customers",
  items: "Items",
  prices: "Supplier prices",
  partsLists: "Parts lists",
  kits: "Kits",
  stock: "Opening stock",
};
const WHAT: Record<ImportKind, string> = {
  suppliers: "Who you buy from",
  customers: "Who you sell to",
  items: "What you buy, build and sell",
  prices: "Which supplier asks what for which item",
  partsLists: "What goes into each product",
  kits: "What is in each set",
  stock: "What lies where, to begin with",
};

type Files = Partial<Record<ImportKind, ImportFile>>;

/** Brings spreadsheets in and takes them out: the same columns both ways, every row checked before anything is written. */
export function ImportPage() {
  const navigate = useNavigate();
  const [files, setFiles] = useState<Files>({});
  const [update, setUpdate] = useState(false);
  const [errors, setErrors] = useState<Partial<Record<ImportKind | "all", string>>>({});
  const [report, setReport] = useState<ImportReport | null>(null);
  const [running, setRunning] = useState<string | null>(null);
  // Only the answer to what was asked last is shown, however the earlier ones come in.
  const asked = useRef("");
  const bodyOf = (of: Files, change: boolean, job: string) => ({
    files: Object.values(of),
    update: change,
    job,
  });
  const bring = useCommand(routes.import, ({ document }) => {
    sayDone(`It is in, as ${document}.`);
    void navigate("/catalog");
  });

  const check = async (chosen: Files, change: boolean) => {
    setFiles(chosen);
    setUpdate(change);
    setReport(null);
    setErrors({});
    bring.clear();
    const job = newKey();
    asked.current = job;
    if (Object.keys(chosen).length === 0) return setRunning(null);
    setRunning(job);
    try {
      const answer = await call(routes.checkImport, { body: bodyOf(chosen, change, job) });
      if (asked.current === job) setReport(answer);
    } catch (error) {
      if (!(error instanceof Refused) && !(error instanceof NoAnswer)) throw error;
      if (asked.current === job) setErrors(errorsOf(error));
    } finally {
      if (asked.current === job) setRunning(null);
    }
  };
  const choose = async (kind: ImportKind, file: File) => {
    if (file.size > LARGEST_FILE) {
      const [size, limit] = [(file.size / 1e6).toFixed(1), LARGEST_FILE / 1e6];
      return setErrors({ ...errors, [kind]: messageOf("file-too-large", { size, limit }) });
    }
    const content = await base64Of(file);
    await check({ ...files, [kind]: { kind, name: file.name, content, columns: {}, decimal: null } }, update);
  };
  const drop = (kind: ImportKind) => {
    const { [kind]: _, ...rest } = files;
    void check(rest, update);
  };
  const rename = (kind: ImportKind, theirs: string, ours: string) => {
    const file = files[kind];
    if (!file) return;
    const columns = Object.fromEntries(Object.entries(file.columns).filter(([, name]) => name !== ours));
    void check({ ...files, [kind]: { ...file, columns: { ...columns, [theirs]: ours } } }, update);
  };
  const writeNumbers = (kind: ImportKind, decimal: ImportFile["decimal"]) => {
    const file = files[kind];
    if (file) void check({ ...files, [kind]: { ...file, decimal } }, update);
  };
  const confirm = async (goodRowsOnly: boolean) => {
    if (!report) return;
    const job = newKey();
    setRunning(job);
    await bring.run({ body: { ...bodyOf(files, update, job), token: report.token, goodRowsOnly } });
    setRunning(null);
  };

  return (
    <>
      <CatalogNav />
      <Page>
        <h1>Spreadsheets in and out</h1>
        <Sub>
          CSV in UTF-8 or XLSX, with the same columns both ways: take a sheet out, change it, bring it in
          again. Every row is checked against the others and against what is here; nothing is written before
          you confirm.
        </Sub>
        <Slots>
          {IMPORT_KINDS.map((kind) => (
            <Slot key={kind} aria-label={TITLES[kind]}>
              <h2>{TITLES[kind]}</h2>
              <p>{WHAT[kind]}</p>
              {files[kind] ? (
                <Given>
                  <FileSpreadsheet aria-hidden />
                  <span>
                    {files[kind].name}
                    <CountOf report={report} kind={kind} />
                  </span>
                  <Button look="icon" aria-label={`Leave out ${files[kind].name}`} onPress={() => drop(kind)}>
                    <X />
                  </Button>
                </Given>
              ) : (
                <FileButton
                  accept={[".csv", "text/csv", ".xlsx"]}
                  aria-label={`Choose ${IMPORT_NAMES[kind]}`}
                  onFile={(file) => void choose(kind, file)}
                >
                  <FileUp /> Bring in
                </FileButton>
              )}
              {errors[kind] && <Wrong role="alert">{errors[kind]}</Wrong>}
              <Out kind={kind} />
            </Slot>
          ))}
        </Slots>
        {running && <Progress job={running} />}
        {errors.all && <Notice>{errors.all}</Notice>}
        {bring.refusal && <Notice>{bring.refusal.message}</Notice>}
        {report && <Numbers report={report} onChange={writeNumbers} />}
        {report && <Columns report={report} onRename={rename} />}
        {report && (
          <Result
            report={report}
            update={update}
            onUpdate={(change) => void check(files, change)}
            busy={bring.busy}
            onConfirm={(goodRowsOnly) => void confirm(goodRowsOnly)}
          />
        )}
        {report && report.problems.length > 0 && <Problems problems={report.problems} />}
        {report && report.changes.length > 0 && <Changes changes={report.changes} update={update} />}
      </Page>
    </>
  );
}

function errorsOf(error: Refused | NoAnswer): Partial<Record<ImportKind | "all", string>> {
  const fields = error instanceof Refused ? error.answer.fields : [];
  const at = IMPORT_KINDS.flatMap((kind) =>
    fields.filter((field) => field.field === kind).map((field) => [kind, field.message] as const),
  );
  return at.length > 0 ? Object.fromEntries(at) : { all: error.message };
}

/** The ways out of a kind: everything, or a template. */
function Out({ kind }: { kind: ImportKind }) {
  const address = (query: string) => `/api/exports/${kind}?${query}`;
  return (
    <Ways>
      <FileDown aria-hidden /> Take out:{" "}
      <a href={address("format=xlsx")} aria-label={`${IMPORT_NAMES[kind]} as XLSX`} download>
        XLSX
      </a>
      <a href={address("format=csv")} aria-label={`${IMPORT_NAMES[kind]} as CSV`} download>
        CSV
      </a>
      <a
        href={address("format=xlsx&empty=true")}
        aria-label={`Empty ${IMPORT_NAMES[kind]} to fill in`}
        title={IMPORT_COLUMNS[kind].join(", ")}
        download
      >
        empty
      </a>
    </Ways>
  );
}

function CountOf({ report, kind }: { report: ImportReport | null; kind: ImportKind }) {
  const count = report?.files.find((file) => file.kind === kind);
  if (!count) return null;
  const words = [
    count.fresh > 0 && `${count.fresh} new`,
    count.changed > 0 && `${count.changed} changed`,
    count.same > 0 && `${count.same} the same`,
  ].filter(Boolean);
  return (
    <small>
      {count.rows} rows{words.length > 0 && `: ${words.join(", ")}`}
    </small>
  );
}

const DECIMAL_WORDS = { ".": "a point: 1,234.5", ",": "a comma: 1.234,5" } as const;

interface NumbersProps {
  report: ImportReport;
  onChange: (kind: ImportKind, decimal: ImportFile["decimal"]) => void;
}

/** How each file writes decimals: told by its numbers, and asked where they do not tell. */
function Numbers({ report, onChange }: NumbersProps) {
  const files = report.files.filter((file) => file.decimal !== null);
  if (files.length === 0) return null;
  return (
    <Match aria-label="How numbers are written" as="section">
      <h2>How numbers are written</h2>
      <Pairs>
        {files.map(({ kind, decimal }) => (
          <Select
            key={kind}
            label={`Decimals in ${TITLES[kind].toLowerCase()} have`}
            width="220px"
            placeholder="Choose"
            value={decimal === "unclear" || decimal === null ? "" : decimal}
            options={DECIMAL_MARKS.map((mark) => ({ value: mark, label: DECIMAL_WORDS[mark] }))}
            onChange={(mark) => onChange(kind, mark)}
          />
        ))}
      </Pairs>
    </Match>
  );
}

const LEFT_OUT = "–";

/** Columns that were not found by their name, to be matched by hand. */
function Columns({
  report,
  onRename,
}: {
  report: ImportReport;
  onRename: (kind: ImportKind, theirs: string, ours: string) => void;
}) {
  const open = report.files.filter(
    (file) => file.missing.length > 0 || file.theirs.some((column) => !file.columns[column]),
  );
  if (open.length === 0) return null;
  return (
    <Match>
      {open.map((file) => {
        const strangers = file.theirs.filter((column) => !file.columns[column]);
        const free = IMPORT_COLUMNS[file.kind].filter((ours) => !Object.values(file.columns).includes(ours));
        return (
          <section key={file.kind}>
            <h2>Columns of {TITLES[file.kind]}</h2>
            <Sub>
              {file.missing.length > 0 ? (
                <Short>Not found: {file.missing.join(", ")}. </Short>
              ) : (
                "These are not read. "
              )}
              Say what each of your columns is.
            </Sub>
            <Pairs>
              {strangers.map((theirs) => (
                <Select
                  key={theirs}
                  label={theirs}
                  width="190px"
                  value={LEFT_OUT}
                  options={[
                    { value: LEFT_OUT, label: "Left out" },
                    ...free.map((ours) => ({
                      value: ours,
                      label: NEEDED_COLUMNS[file.kind].includes(ours) ? `${ours} (needed)` : ours,
                    })),
                  ]}
                  onChange={(ours) => ours !== LEFT_OUT && onRename(file.kind, theirs, ours)}
                />
              ))}
            </Pairs>
          </section>
        );
      })}
    </Match>
  );
}

interface ResultProps {
  report: ImportReport;
  update: boolean;
  onUpdate: (update: boolean) => void;
  busy: boolean;
  onConfirm: (goodRowsOnly: boolean) => void;
}

const THINGS: Record<ImportKind, [one: string, many: string]> = {
  suppliers: ["supplier", "suppliers"],
  customers: ["customer", "customers"],
  items: ["item", "items"],
  prices: ["supplier price", "supplier prices"],
  partsLists: ["parts list", "parts lists"],
  kits: ["kit", "kits"],
  stock: ["row of stock", "rows of stock"],
};

/** What would be written, in a sentence, and the way to it. */
function Result({ report, update, onUpdate, busy, onConfirm }: ResultProps) {
  const format = useFormat();
  const { adds, problems, changes } = report;
  const count = (of: Record<ImportKind, number>, word: string) =>
    IMPORT_KINDS.filter((kind) => of[kind] > 0).map(
      (kind) => `${format.count(of[kind], ...THINGS[kind])}${word}`,
    );
  const parts = [
    ...count(adds.fresh, ""),
    ...count(adds.changed, " changed"),
    ...(adds.stores.length > 0
      ? [`the new ${adds.stores.length === 1 ? "store" : "stores"} ${format.list(adds.stores)}`]
      : []),
    ...(adds.bins > 0 ? [format.count(adds.bins, "new bin", "new bins")] : []),
    ...(adds.groups.length > 0 ? [format.count(adds.groups.length, "new group", "new groups")] : []),
  ];
  const changed = new Set(changes.map((change) => `${change.kind} ${change.what}`)).size;
  const nothing = parts.length === 0;
  // Until that is said, not a row of the file is read.
  if (report.files.some((file) => file.decimal === "unclear"))
    return (
      <Answer>
        <em>Say first how the numbers are written.</em>
      </Answer>
    );
  return (
    <>
      <Answer>
        {nothing
          ? "There is nothing new in these files."
          : `${format.list(parts)} can come in${adds.fresh.stock > 0 ? `, worth ${format.money(adds.stockValue)}` : ""}.`}{" "}
        {problems.length > 0 && (
          <em>{format.count(problems.length, "problem was", "problems were")} found.</em>
        )}
      </Answer>
      {changed > 0 && (
        <Checkbox isSelected={update} onChange={onUpdate}>
          Also change {format.count(changed, "record that is", "records that are")} here already, as listed
          below
        </Checkbox>
      )}
      <Actions>
        {!nothing && problems.length === 0 && (
          <Button look="main" isPending={busy} onPress={() => onConfirm(false)}>
            Import all of it
          </Button>
        )}
        {!nothing && problems.length > 0 && (
          <>
            <Button isPending={busy} onPress={() => onConfirm(true)}>
              Import the good rows only
            </Button>
            <span>
              or mend the file and choose it again; <Short>rows with a problem stay out.</Short>
            </span>
          </>
        )}
        {nothing && problems.length > 0 && <Sub>Mend the files and choose them again.</Sub>}
      </Actions>
    </>
  );
}

const Slots = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(226px, 1fr));
  gap: 12px;
`;
const Slot = styled.section`
  border: 1px solid ${color.line};
  background: ${color.sheet};
  padding: 12px 14px;
  p {
    margin: 2px 0 10px;
    color: ${color.ink2};
  }
`;
const Ways = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
  margin-top: 12px;
  font-size: 13.5px;
  color: ${color.ink2};
  svg {
    width: 15px;
    height: 15px;
  }
`;
const Given = styled.div`
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 38px;
  span {
    flex: 1;
    font-weight: 600;
    overflow-wrap: anywhere;
  }
  small {
    display: block;
    font-weight: 400;
    color: ${color.ink2};
  }
  > svg {
    width: 22px;
    flex: none;
    color: ${color.zelkova};
  }
`;
const Wrong = styled.div`
  color: ${color.lacquer};
  font-weight: 600;
  font-size: 13.5px;
  margin-top: 8px;
  overflow-wrap: anywhere;
`;
const Match = styled.div`
  display: grid;
  gap: 14px;
  margin-top: 18px;
`;
const Pairs = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
`;
const Answer = styled.h1`
  font-size: 23px;
  margin: 22px 0 6px;
  max-width: 40em;
  em {
    font-style: normal;
    color: ${color.lacquer};
  }
`;
