import * as z from 'zod';
import './zod.js';
import { Problem } from './problem.js';
import type { Who } from './roles.js';

/** Server-sent events: every accepted command, in order; `Last-Event-ID` resumes. */
export const EVENTS_PATH = '/api/v1/events';
/** Photos: one multipart file named `photo` in, `{ file }` out; shown again under its name. */
export const PHOTOS_PATH = '/api/v1/photos';
export const PHOTO_PATH = '/api/v1/photos/:file';
export const PHOTO_MOST_BYTES = 12 * 2 ** 20;
export const PhotoAnswer = z.object({ file: z.string() });
export type PhotoAnswer = z.infer<typeof PhotoAnswer>;
/** A code as a DataMatrix, an SVG to print. */
export const TAG_PATH = '/api/v1/codes/:text/tag.svg';
/** Bench days and due days as an iCalendar file. */
export const CALENDAR_PATH = '/api/v1/calendar.ics';
/** The same under an address of its own, for a calendar program that cannot sign in. */
export const SUBSCRIBED_CALENDAR_PATH = '/api/v1/calendars/:token';
/** A blade's passport as a PDF; `units` says in which it is written. */
export const PASSPORT_PATH = '/api/v1/blades/:id/passport.pdf';
/** The set on a mower as a PDF; `units` says in which it is written. */
export const SET_REPORT_PATH = '/api/v1/mowers/:id/set.pdf';
/** The sets of every mower that works at a `site`, for its customer, as a PDF. */
export const SITE_REPORT_PATH = '/api/v1/sets.pdf';
/** What the bench did from one day to another, by default in the last twelve months, as a PDF. */
export const SEASON_REPORT_PATH = '/api/v1/season.pdf';
/** The photo mat to print at its true size, a PDF; `paper` is `a4` or `letter`. */
export const MAT_PATH = '/api/v1/photo-mats/:number/mat.pdf';
/** A picture of the blade in hand by the simulated photo stand. */
export const STAND_PATH = '/api/v1/photo-stand.jpg';
/** Labels on a sheet, as a PDF: of blades by `codes` with commas, else of every peg of the wall. */
export const LABELS_PATH = '/api/v1/labels.pdf';
/** Lists to take away, `register`, `due`, `scrap`, `costs` or `purchases`, as `.csv`, `.xlsx` or `.pdf`. */
export const SHEET_PATH = '/api/v1/sheets/:file';
/** The whole shop as a data package, a ZIP: out, and into an empty shop. */
export const EXPORT_PATH = '/api/v1/export';
export const IMPORT_PATH = '/api/v1/import';
export const PACKAGE_MEDIA_TYPE = 'application/zip';
/** What an import says while it goes on, a line of JSON each; the last one is what came in, or the problem. */
export const ImportSays = z.union([
  z.object({ resource: z.string(), rows: z.int() }),
  z.object({
    done: z.object({
      blades: z.int(),
      mowers: z.int(),
      signedCycles: z.int(),
      entries: z.int(),
      photos: z.int(),
    }),
  }),
  z.object({ problem: Problem }),
]);
export type ImportSays = z.infer<typeof ImportSays>;
export const OPENAPI_PATH = '/api/v1/openapi.json';

/** An address that takes or gives files, or a stream: no JSON of the contract's. */
export interface FileRoute {
  readonly method: 'get' | 'post';
  readonly path: string;
  readonly summary: string;
  readonly who: Who;
  /** Media type of what is sent. */
  readonly takes?: string;
  /** Media types of what comes back. */
  readonly gives: readonly string[];
}

export const FILE_ROUTES = {
  events: {
    method: 'get',
    path: EVENTS_PATH,
    summary: 'Every accepted command as it happens (server-sent events); Last-Event-ID resumes',
    who: 'crew',
    gives: ['text/event-stream'],
  },
  sendPhoto: {
    method: 'post',
    path: PHOTOS_PATH,
    summary:
      'Keeps a photo, one multipart file named photo; a command with the name answered puts it on a blade, or beside a look at the grass',
    who: 'crew',
    takes: 'multipart/form-data',
    gives: ['application/json'],
  },
  photo: {
    method: 'get',
    path: PHOTO_PATH,
    summary: 'A photo by its name',
    who: 'crew',
    gives: ['image/jpeg'],
  },
  tag: {
    method: 'get',
    path: TAG_PATH,
    summary: 'A code as a DataMatrix to print',
    who: 'technician',
    gives: ['image/svg+xml'],
  },
  calendar: {
    method: 'get',
    path: CALENDAR_PATH,
    summary: 'Bench days and due days as an iCalendar file',
    who: 'technician',
    gives: ['text/calendar'],
  },
  subscribedCalendar: {
    method: 'get',
    path: SUBSCRIBED_CALENDAR_PATH,
    summary: 'The calendar under the address a manager made, with no sign-in; its token is the key',
    who: 'anyone',
    gives: ['text/calendar'],
  },
  passport: {
    method: 'get',
    path: PASSPORT_PATH,
    summary: 'A blade’s passport; units is metric, inch or inch-ounce',
    who: 'technician',
    gives: ['application/pdf'],
  },
  setReport: {
    method: 'get',
    path: SET_REPORT_PATH,
    summary: 'The set on a mower, blade by blade; units is metric, inch or inch-ounce',
    who: 'technician',
    gives: ['application/pdf'],
  },
  siteReport: {
    method: 'get',
    path: SITE_REPORT_PATH,
    summary: 'The sets of every mower that works at a site; units is metric, inch or inch-ounce',
    who: 'technician',
    gives: ['application/pdf'],
  },
  seasonReport: {
    method: 'get',
    path: SEASON_REPORT_PATH,
    summary:
      'What the bench did from one day to another (from, to): by month and mower, what retired blades, what damage was found',
    who: 'technician',
    gives: ['application/pdf'],
  },
  labels: {
    method: 'get',
    path: LABELS_PATH,
    summary:
      'Labels of blades by codes, or of every peg; sheet names the paper, skip the labels that are gone',
    who: 'technician',
    gives: ['application/pdf'],
  },
  sheet: {
    method: 'get',
    path: SHEET_PATH,
    summary:
      'register, due, scrap, costs or purchases as .csv, .xlsx or .pdf; the register takes the query of its view, purchases assumed and months',
    who: 'technician',
    gives: [
      'text/csv',
      'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      'application/pdf',
    ],
  },
  mat: {
    method: 'get',
    path: MAT_PATH,
    summary: 'A photo mat to print at its true size; paper is a4 or letter',
    who: 'technician',
    gives: ['application/pdf'],
  },
  stand: {
    method: 'get',
    path: STAND_PATH,
    summary:
      'The simulated photo stand’s picture of one end: cycle, end, mat, and pose for how it is held',
    who: 'technician',
    gives: ['image/jpeg'],
  },
  exportShop: {
    method: 'get',
    path: EXPORT_PATH,
    summary: 'The whole shop as a Frictionless Data Package',
    who: 'manager',
    gives: [PACKAGE_MEDIA_TYPE],
  },
  importShop: {
    method: 'post',
    path: IMPORT_PATH,
    summary:
      'Brings a whole shop into an empty one, on the server’s own machine; answers line by line',
    who: 'anyone',
    takes: PACKAGE_MEDIA_TYPE,
    gives: ['application/x-ndjson'],
  },
} as const satisfies Record<string, FileRoute>;
