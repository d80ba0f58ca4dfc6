import Papa from 'papaparse';

/** A list's cells as texts, heads first. */
export type Cells = readonly (readonly string[])[];

/** A cell of a workbook as a person would type it. */
const typed = (cell: unknown): string =>
  cell === null || cell === undefined
    ? ''
    : cell instanceof Date
      ? cell.toISOString().slice(0, 10)
      : String(cell as string | number | boolean);

/** From the first row that says anything; empty rows further down keep their lines. */
function fromHeads(rows: Cells): Cells {
  const says = (row: readonly string[]): boolean => row.some((cell) => cell.trim() !== '');
  return rows.slice(Math.max(0, rows.findIndex(says)), rows.findLastIndex(says) + 1);
}

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
  return fromHeads(rows.map((row) => row.map(typed)));
}

/** What stands between columns: of the usual marks the one most often in the heads, where no decimal comma can be. */
function delimiterOf(text: string): string {
  const heads = /^[^\S\n]*\S[^\n]*/m.exec(text)?.[0].replace(/"[^"]*"/g, '') ?? '';
  const often = (mark: string): number => heads.split(mark).length;
  return [';', '\t', '|', ','].reduce((best, mark) => (often(mark) > often(best) ? mark : best));
}

/** Reads a list out of a file, CSV or XLSX by what is in it. Errors: in words. */
export async function readList(file: File): Promise<Cells> {
  const start = await file.slice(0, 2).text();
  if (start === ZIP) {
    return cellsOfWorkbook(file).catch(() => {
      throw new Error('This workbook cannot be read: save it as CSV and choose that.');
    });
  }
  const text = await textOf(file);
  if (text.includes('\0')) throw new Error('This is no list: choose a CSV or XLSX file.');
  const bare = text.replace(/^\uFEFF/, '');
  const { data } = Papa.parse<string[]>(bare, { delimiter: delimiterOf(bare) });
  return fromHeads(data);
}
