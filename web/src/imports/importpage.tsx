import {
  IMPORT_KINDS,
  IMPORT_NAMES,
  type ImportFile,
  type ImportKind,
  type ImportReport,
  importRoutes,
  LARGEST_FILE,
  messageOf,
} from "@yosegi/contract";
import { FileSpreadsheet, FileUp, X } from "lucide-react";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { call, NoAnswer, newKey, Refused, useCommand } from "../api/index.ts";
import { Progress } from "../jobs/index.ts";
import { CatalogNav } from "../nav/index.ts";
import { Button, base64Of, color, FileButton, Notice, Page, Sub, sayDone } from "../ui/index.ts";
import { Earlier } from "./earlier.tsx";
import { CountOf, Out } from "./exports.tsx";
import { Columns, Numbers } from "./matching.tsx";
import { Changes, Problems } from "./problems.tsx";
import { Result } from "./result.tsx";
import { TITLES, WHAT } from "./words.ts";

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
  const bring = useCommand(importRoutes.import, ({ document }) => {
    sayDone(`Imported as ${document}.`);
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
      const answer = await call(importRoutes.checkImport, { body: bodyOf(chosen, change, job) });
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
    // What was that column before is no longer; what is left out may be any number.
    const columns = Object.fromEntries(
      Object.entries(file.columns).filter(([, name]) => ours === "" || name !== ours),
    );
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
            <FileSlot
              key={kind}
              kind={kind}
              file={files[kind]}
              report={report}
              error={errors[kind]}
              onChoose={(file) => void choose(kind, file)}
              onDrop={() => drop(kind)}
            />
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
        {!report && <Earlier />}
      </Page>
    </>
  );
}

interface FileSlotProps {
  kind: ImportKind;
  file: ImportFile | undefined;
  report: ImportReport | null;
  error: string | undefined;
  onChoose: (file: File) => void;
  onDrop: () => void;
}

/** One kind of sheet: what it holds, the file that was chosen for it, and the same columns to take out. */
function FileSlot({ kind, file, report, error, onChoose, onDrop }: FileSlotProps) {
  return (
    <Slot aria-label={TITLES[kind]}>
      <h2>{TITLES[kind]}</h2>
      <p>{WHAT[kind]}</p>
      {file ? (
        <Given>
          <FileSpreadsheet aria-hidden />
          <span>
            {file.name}
            <CountOf report={report} kind={kind} />
          </span>
          <Button look="icon" aria-label={`Leave out ${file.name}`} onPress={onDrop}>
            <X />
          </Button>
        </Given>
      ) : (
        <FileButton
          accept={[".csv", "text/csv", ".xlsx"]}
          aria-label={`Choose ${IMPORT_NAMES[kind]}`}
          onFile={onChoose}
        >
          <FileUp /> Bring in
        </FileButton>
      )}
      {error && <Wrong role="alert">{error}</Wrong>}
      <Out kind={kind} />
    </Slot>
  );
}

function errorsOf(error: Refused | NoAnswer): Partial<Record<ImportKind | "all", string>> {
  const fields = error instanceof Refused ? error.answer.fields : [];
  const at = IMPORT_KINDS.flatMap((kind) =>
    fields.filter((field) => field.field === kind).map((field) => [kind, field.message] as const),
  );
  return at.length > 0 ? Object.fromEntries(at) : { all: error.message };
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
