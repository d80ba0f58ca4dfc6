import {
  CALENDAR_PATH,
  FILE_ROUTES,
  LABELS_PATH,
  PASSPORT_PATH,
  SEASON_REPORT_PATH,
  SET_REPORT_PATH,
  SHEET_PATH,
  SITE_REPORT_PATH,
  SUBSCRIBED_CALENDAR_PATH,
  TAG_PATH,
} from '@tally-stone/contract';
import {
  LABEL_SHEETS,
  UNIT_SYSTEMS,
  type LabelSheetName,
  type UnitSystem,
} from '@tally-stone/core';
import { Refusal } from '@tally-stone/cycle';
import type { Express, Response } from 'express';
import * as z from 'zod';
import type { Database } from '../database.js';
import type { SetsAsked } from '../report/set-report.js';
import { bladeByCode } from '../screens/blade-rows.js';
import { calendarOf } from '../screens/calendar.js';
import { fleetView } from '../screens/fleet.js';
import { opensCalendar } from '../shop/calendar-address.js';
import { shopOf } from '../shop/look-up.js';
import { refuseInvisible } from './edge.js';
import { allowed } from './sessions.js';

const Asked = z.object({ units: z.enum(UNIT_SYSTEMS).default('metric') });
const AtSite = Asked.extend({
  site: z
    .string()
    .min(1, { error: () => $localize`is empty: name the site` })
    .max(80),
});
const Day = z.iso.date({ error: () => $localize`must be a day like 2026-04-01` }).optional();
const Span = Asked.extend({ from: Day, to: Day });
const SHEET_NAMES = Object.keys(LABEL_SHEETS) as [LabelSheetName, ...LabelSheetName[]];
const MOST_SKIPPED = 64;
const Labels = z.object({
  sheet: z.enum(SHEET_NAMES).default(SHEET_NAMES[0]),
  skip: z.coerce
    .number()
    .int()
    .min(0, { error: () => $localize`must not be negative` })
    .max(MOST_SKIPPED)
    .default(0),
  codes: z
    .string()
    .max(20_000, { error: () => $localize`are too many at once` })
    .transform((text) =>
      text
        .split(',')
        .map((each) => each.trim())
        .filter(Boolean),
    )
    .optional(),
});
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/**
 * What a shop takes away: on paper, on labels, in spreadsheets and calendars. What writes them takes as long to load as
 * the rest of the server, so it comes with the first that is asked for.
 */
export function mountReports(app: Express, database: Database): void {
  app.get(TAG_PATH, allowed(FILE_ROUTES.tag.who), async (request, response) => {
    const blade = await bladeByCode(database, String(request.params['text']));
    const { default: bwip } = await import('bwip-js/node');
    response
      .set('Cache-Control', 'no-store')
      .type('image/svg+xml')
      .send(bwip.toSVG({ bcid: 'datamatrix', text: blade.code, padding: 2 }));
  });
  const sendCalendar = async (response: Response): Promise<void> => {
    const { name } = await shopOf(database);
    response
      .set('Cache-Control', 'no-store')
      .type('text/calendar')
      .send(calendarOf(await fleetView(database), name));
  };
  app.get(CALENDAR_PATH, allowed(FILE_ROUTES.calendar.who), async (_request, response) => {
    await sendCalendar(response.attachment('blades.ics'));
  });
  app.get(SUBSCRIBED_CALENDAR_PATH, async (request, response) => {
    const token = String(request.params['token']).replace(/\.ics$/, '');
    if (!(await opensCalendar(database, token)))
      throw new Refusal(
        'notFound',
        $localize`No calendar has this address: ask the shop for a new one.`,
      );
    await sendCalendar(response);
  });
  app.get(PASSPORT_PATH, allowed(FILE_ROUTES.passport.who), async (request, response) => {
    refuseInvisible(request.params);
    const { units } = Asked.parse(request.query);
    const { passport } = await import('../report/passport.js');
    const { pdf, code } = await passport(database, String(request.params['id']), {
      system: units,
      address: `${request.protocol}://${request.get('host') ?? ''}`,
      at: new Date().toISOString(),
    });
    response
      .set('Cache-Control', 'no-store')
      .set('Content-Disposition', `inline; filename="blade-${code}.pdf"`)
      .type('application/pdf')
      .send(pdf);
  });
  const sendSets = async (response: Response, asked: SetsAsked, units: UnitSystem) => {
    const { setReport } = await import('../report/set-report.js');
    const pdf = await setReport(database, asked, { system: units, at: new Date().toISOString() });
    response
      .set('Cache-Control', 'no-store')
      .set('Content-Disposition', 'inline; filename="set.pdf"')
      .type('application/pdf')
      .send(pdf);
  };
  app.get(SET_REPORT_PATH, allowed(FILE_ROUTES.setReport.who), async (request, response) => {
    refuseInvisible(request.params);
    const { units } = Asked.parse(request.query);
    await sendSets(response, { mowerId: String(request.params['id']) }, units);
  });
  app.get(SITE_REPORT_PATH, allowed(FILE_ROUTES.siteReport.who), async (request, response) => {
    refuseInvisible(request.query);
    const { units, site } = AtSite.parse(request.query);
    await sendSets(response, { site }, units);
  });
  app.get(SEASON_REPORT_PATH, allowed(FILE_ROUTES.seasonReport.who), async (request, response) => {
    refuseInvisible(request.query);
    const { units, ...days } = Span.parse(request.query);
    const { seasonReport } = await import('../report/season-report.js');
    const about = { system: units, at: new Date().toISOString() };
    response
      .set('Cache-Control', 'no-store')
      .set('Content-Disposition', 'inline; filename="season.pdf"')
      .type('application/pdf')
      .send(await seasonReport(database, days, about));
  });
  app.get(LABELS_PATH, allowed(FILE_ROUTES.labels.who), async (request, response) => {
    refuseInvisible(request.query);
    const { labels } = await import('../report/labels.js');
    response
      .set('Cache-Control', 'no-store')
      .set('Content-Disposition', 'inline; filename="labels.pdf"')
      .type('application/pdf')
      .send(await labels(database, Labels.parse(request.query)));
  });
  app.get(SHEET_PATH, allowed(FILE_ROUTES.sheet.who), async (request, response) => {
    refuseInvisible(request.query);
    const [, name = '', form] =
      /^(\w+)\.(csv|xlsx|pdf)$/.exec(String(request.params['file'])) ?? [];
    const { isSheet, sheetOf, toCsv, toPdf, toXlsx } = await import('../report/sheets.js');
    if (!isSheet(name)) throw new Refusal('notFound', $localize`There is no such list.`);
    const sheet = await sheetOf(name, database, request.query);
    if (form === 'pdf') {
      const shop = await shopOf(database);
      const { units } = Asked.parse({ units: request.query['units'] });
      response
        .set('Cache-Control', 'no-store')
        .set('Content-Disposition', `inline; filename="${name}.pdf"`)
        .type('application/pdf')
        .send(await toPdf(sheet, { shop, system: units, at: new Date().toISOString() }));
      return;
    }
    response
      .set('Cache-Control', 'no-store')
      .attachment(`${name}.${form ?? ''}`)
      .type(form === 'csv' ? 'text/csv; charset=utf-8' : XLSX)
      .send(form === 'csv' ? toCsv(sheet) : await toXlsx(sheet));
  });
}
