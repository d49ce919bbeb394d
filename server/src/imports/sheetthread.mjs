// Reads a workbook in a thread of its own; see spreadsheet.ts. Plain JavaScript, so that it runs without a build too.
import { parentPort, workerData } from "node:worker_threads";
import { unzipSync } from "fflate";
import { readSheet } from "read-excel-file/node";

const { content, limits } = workerData;

parentPort.postMessage(await answer());

/** @returns {Promise<import("./spreadsheet.ts").SheetAnswer>} */
async function answer() {
  try {
    if (unpackedSize() > limits.unpacked || reachesTooFar()) return { tooLarge: true };
    const rows = await readSheet(Buffer.from(content), { parseNumber: (text) => text });
    if (rows.length > limits.rows || rows.some((row) => row.length > limits.columns))
      return { tooLarge: true };
    return { rows: rows.map((row) => row.map(cellText)) };
  } catch (error) {
    if (error instanceof RangeError) return { tooLarge: true };
    return { why: error instanceof Error ? error.message : String(error) };
  }
}

/** Bytes of all that is packed in the file, as its directory tells them; nothing is unpacked for it. */
function unpackedSize() {
  let size = 0;
  unzipSync(content, {
    filter: (file) => {
      size += file.originalSize;
      return false;
    },
  });
  return size;
}

/** Whether a cell stands further out than is read: all that lies before it would be made, however empty it is. */
function reachesTooFar() {
  const sheets = unzipSync(content, { filter: (file) => /worksheets\/[^/]*\.xml$/.test(file.name) });
  return Object.values(sheets).some((sheet) => {
    for (const [, column, row] of new TextDecoder().decode(sheet).matchAll(/<c\b[^>]*?\br="([A-Z]+)(\d+)"/g))
      if (Number(row) > limits.rows || column.length > 3 || columnNumber(column) > limits.columns)
        return true;
    return false;
  });
}

/** A is 1, Z is 26, AA is 27. */
function columnNumber(letters) {
  return [...letters].reduce((n, letter) => n * 26 + letter.charCodeAt(0) - 64, 0);
}

function cellText(cell) {
  if (cell === null || cell === undefined) return "";
  if (cell instanceof Date) return cell.toISOString().slice(0, 10);
  if (typeof cell === "boolean") return cell ? "yes" : "no";
  const text = String(cell);
  // A spreadsheet keeps fractions as binary numbers: what lies past their fifteen digits was never typed.
  if (/^-?\d*\.?\d+(e[+-]?\d+)?$/i.test(text) && (text.length > 15 || /e/i.test(text))) {
    const exact = Number(Number(text).toPrecision(15));
    return Number.isFinite(exact) ? plain(exact) : text;
  }
  return text;
}

/** A number without an exponent. */
function plain(value) {
  const text = String(value);
  return /e/i.test(text)
    ? value.toLocaleString("en-US", { useGrouping: false, maximumFractionDigits: 20 })
    : text;
}
