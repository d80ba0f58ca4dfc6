import Papa from 'papaparse';

/** A list's cells as texts, row by row as they lie in the file. */
export type Cells = readonly (readonly string[])[];

/** A cell of a workbook as a person would type it. */
const typed = (cell: unknown): string =>
  cell === null || cell === undefined
    ? ''
    : cell instanceof Date
      ? cell.toISOString().slice(0, 10)
      : String(cell as string | number | boolean);

/** To the last row that says anything; empty ones before it keep their lines. */
const toLast = (rows: Cells): Cells =>
  rows.slice(0, rows.findLastIndex((row) => row.some((cell) => cell.trim() !== '')) + 1);

/** Text of a file: UTF-8, and what older spreadsheets write where it is not. */
async function textOf(file: Blob): Promise<string> {
  const bytes = await file.arrayBuffer();
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

const ZIP = 'PK';

/** The first sheet of a workbook that holds anything. The reader is fetched once a workbook is chosen. */
async function cellsOfWorkbook(file: File): Promise<Cells> {
  const { default: readWorkbook } = await import('read-excel-file/browser');
  const sheets = await readWorkbook(file);
  const rows: readonly (readonly unknown[])[] =
    sheets.find(({ data }) => data.length > 0)?.data ?? [];
  return toLast(rows.map((row) => row.map(typed)));
}

/** What stands between columns is looked for in so many lines from the top. */
const LINES = 12;

/** What stands between columns: of the usual marks the one there is most of; a decimal comma is in few of the cells. */
function delimiterOf(text: string): string {
  const top = text
    .split('\n', LINES)
    .join('\n')
    .replace(/"[^"]*"/g, '');
  const often = (mark: string): number => top.split(mark).length;
  return [';', '\t', '|', ','].reduce((best, mark) => (often(mark) > often(best) ? mark : best));
}

/** Reads a list out of a file, CSV or XLSX by what is in it. Errors: in words. */
export async function readList(file: File): Promise<Cells> {
  const start = await file.slice(0, 2).text();
  if (start === ZIP) {
    return cellsOfWorkbook(file).catch(() => {
      throw new Error($localize`This workbook cannot be read: save it as CSV and choose that.`);
    });
  }
  const text = await textOf(file);
  if (text.includes('\0'))
    throw new Error($localize`This is not a list: choose a CSV or XLSX file.`);
  const bare = text.replace(/^\uFEFF/, '');
  const { data } = Papa.parse<string[]>(bare, { delimiter: delimiterOf(bare) });
  return toLast(data);
}
