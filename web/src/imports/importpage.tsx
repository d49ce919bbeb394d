import {
  IMPORT_COLUMNS,
  IMPORT_NAMES,
  type ImportFile,
  type ImportFiles,
  type ImportReport,
  LARGEST_FILE,
  messageOf,
  routes,
} from "@yosegi/contract";
import { FileSpreadsheet, X } from "lucide-react";
import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { call, NoAnswer, Refused, useCommand } from "../api/index.ts";
import { Actions, Button, color, Notice, Page, Short, Sub, sayDone, useFormat } from "../ui/index.ts";
import { Problems } from "./problems.tsx";

const KINDS: ImportFile[] = ["items", "partsLists", "stock"];
const WHAT: Record<ImportFile, string> = {
  items: "What you buy, build and sell",
  partsLists: "What goes into each product",
  stock: "What lies where, to begin with",
};

interface Chosen {
  name: string;
  text: string;
}

/** Brings in a spreadsheet: choose files, see what is wrong with each row, then confirm. */
export function ImportPage() {
  const navigate = useNavigate();
  const [files, setFiles] = useState<Partial<Record<ImportFile, Chosen>>>({});
  const [errors, setErrors] = useState<Partial<Record<ImportFile | "all", string>>>({});
  const [report, setReport] = useState<ImportReport | null>(null);
  const [checking, setChecking] = useState(false);
  const body: ImportFiles = {
    items: files.items?.text ?? null,
    partsLists: files.partsLists?.text ?? null,
    stock: files.stock?.text ?? null,
  };
  const bring = useCommand(routes.import, (answer) => {
    sayDone(`The good rows are in, as ${answer.document}.`);
    void navigate("/catalog");
  });

  const check = async (chosen: Partial<Record<ImportFile, Chosen>>) => {
    setFiles(chosen);
    setReport(null);
    bring.clear();
    const given = KINDS.filter((kind) => chosen[kind]);
    if (given.length === 0) return setErrors({});
    setChecking(true);
    try {
      setReport(
        await call(routes.checkImport, {
          body: {
            items: chosen.items?.text ?? null,
            partsLists: chosen.partsLists?.text ?? null,
            stock: chosen.stock?.text ?? null,
          },
        }),
      );
      setErrors({});
    } catch (error) {
      if (!(error instanceof Refused) && !(error instanceof NoAnswer)) throw error;
      const fields = error instanceof Refused ? error.answer.fields : [];
      const at = KINDS.flatMap((kind) =>
        fields.filter((f) => f.field === kind).map((f) => [kind, f.message] as const),
      );
      setErrors(at.length > 0 ? Object.fromEntries(at) : { all: error.message });
    } finally {
      setChecking(false);
    }
  };
  const choose = async (kind: ImportFile, file: File) => {
    const read = await readText(file);
    if (read.ok) return check({ ...files, [kind]: { name: file.name, text: read.text } });
    setErrors({ ...errors, [kind]: read.why });
  };
  const drop = (kind: ImportFile) => {
    const { [kind]: _, ...rest } = files;
    void check(rest);
  };

  return (
    <Page>
      <h1>Bring in a spreadsheet</h1>
      <Sub>
        Save each sheet as CSV in UTF-8, with these columns. Every row is checked against the others and
        against what is here already; nothing is written before you confirm.
      </Sub>
      <Slots>
        {KINDS.map((kind) => (
          <Slot key={kind}>
            <h2>{IMPORT_NAMES[kind]}</h2>
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
              <FileTrigger
                acceptedFileTypes={[".csv", "text/csv"]}
                onSelect={(list) => {
                  const [file] = list ?? [];
                  if (file) void choose(kind, file);
                }}
              >
                <Button aria-label={`Choose ${IMPORT_NAMES[kind]}`}>Choose a file</Button>
              </FileTrigger>
            )}
            {errors[kind] && <Wrong role="alert">{errors[kind]}</Wrong>}
            <Columns>
              {IMPORT_COLUMNS[kind].join(", ")}
              <br />
              <a href={template(kind)} download={IMPORT_NAMES[kind]}>
                Download as an empty file
              </a>
            </Columns>
          </Slot>
        ))}
      </Slots>
      {checking && <Sub role="status">Checking every row …</Sub>}
      {errors.all && <Notice>{errors.all}</Notice>}
      {report && <Result report={report} />}
      {bring.refusal && <Notice>{bring.refusal.message}</Notice>}
      {report && (
        <Confirm
          report={report}
          busy={bring.busy}
          onConfirm={(goodRowsOnly) =>
            void bring.run({ body: { ...body, token: report.token, goodRowsOnly } })
          }
        />
      )}
      {report && report.problems.length > 0 && <Problems problems={report.problems} />}
    </Page>
  );
}

function CountOf({ report, kind }: { report: ImportReport | null; kind: ImportFile }) {
  const count = report?.files.find((f) => f.file === kind);
  if (!count) return null;
  return (
    <small>
      {count.good} of {count.rows} rows are good
    </small>
  );
}

/** What would be written, in a sentence. */
function Result({ report }: { report: ImportReport }) {
  const format = useFormat();
  const { adds, problems } = report;
  const parts = [
    adds.items > 0 && format.count(adds.items, "item", "items"),
    adds.lists > 0 && format.count(adds.lists, "parts list", "parts lists"),
    adds.stockRows > 0 &&
      `${format.count(adds.stockRows, "row", "rows")} of stock worth ${format.money(adds.stockValue)}`,
    adds.stores.length > 0 &&
      `the new ${adds.stores.length === 1 ? "store" : "stores"} ${format.list(adds.stores)}`,
    adds.bins > 0 && format.count(adds.bins, "new bin", "new bins"),
  ].filter((part) => part !== false);
  return (
    <Answer>
      {parts.length === 0 ? "Nothing in these files can come in." : `${format.list(parts)} can come in.`}{" "}
      {problems.length > 0 && <em>{format.count(problems.length, "problem was", "problems were")} found.</em>}
    </Answer>
  );
}

interface ConfirmProps {
  report: ImportReport;
  busy: boolean;
  onConfirm: (goodRowsOnly: boolean) => void;
}

function Confirm({ report, busy, onConfirm }: ConfirmProps) {
  const nothing = report.adds.items + report.adds.lists + report.adds.stockRows === 0;
  if (nothing) return <Sub>Mend the files and choose them again.</Sub>;
  if (report.problems.length === 0)
    return (
      <Actions>
        <Button look="main" isPending={busy} onPress={() => onConfirm(false)}>
          Import all of it
        </Button>
      </Actions>
    );
  return (
    <Actions>
      <Button isPending={busy} onPress={() => onConfirm(true)}>
        Import the good rows only
      </Button>
      <span>
        or mend the files and choose them again; <Short>rows with a problem stay out.</Short>
      </span>
    </Actions>
  );
}

const MEGABYTE = 1_000_000;

/** Reads a chosen file, unless it is too large or not UTF-8. */
async function readText(file: File): Promise<{ ok: true; text: string } | { ok: false; why: string }> {
  if (file.size > LARGEST_FILE) {
    const size = (file.size / MEGABYTE).toFixed(1);
    return { ok: false, why: messageOf("file-too-large", { size, limit: LARGEST_FILE / MEGABYTE }) };
  }
  try {
    return { ok: true, text: new TextDecoder("utf-8", { fatal: true }).decode(await file.arrayBuffer()) };
  } catch (error) {
    if (!(error instanceof TypeError)) throw error;
    return { ok: false, why: `${file.name} is not in UTF-8. Save it again as “CSV UTF-8”.` };
  }
}

const template = (kind: ImportFile) =>
  `data:text/csv;charset=utf-8,${encodeURIComponent(`${IMPORT_COLUMNS[kind].join(",")}\r\n`)}`;

const Slots = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 14px;
`;
const Slot = styled.section`
  border: 1px solid ${color.line};
  background: ${color.sheet};
  padding: 14px 16px;
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
const Columns = styled.div`
  margin-top: 12px;
  font-size: 13px;
  color: ${color.ink2};
  overflow-wrap: anywhere;
`;
const Answer = styled.h1`
  font-size: 23px;
  margin: 22px 0 0;
  max-width: 34em;
  em {
    font-style: normal;
    color: ${color.lacquer};
  }
`;
