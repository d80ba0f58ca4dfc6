import type { BladeView, CycleSummary } from '@tally-stone/contract';
import {
  BLADE_STATES,
  bladeOutline,
  DAMAGE,
  edgePoint,
  ENDS,
  RETIRE_REASONS,
  type OutlineInput,
  type OutlinePoint,
  type UnitSystem,
  placeSaid,
  named,
} from '@tally-stone/core';
import bwip from 'bwip-js/node';
import { scaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';
import type { Database } from '../database.js';
import { headOf } from '../record/chain.js';
import { bladeLife } from '../screens/life.js';
import { shopOf } from '../shop/look-up.js';
import { grindColumns, grindRow } from './grind-rows.js';
import { INK, Paper, POINTS_PER_MM, QUIET, RULE, SPARK, STRONG, TEXT } from './paper.js';

/**
 * A blade's passport: what it is, what was done to it, by whom, and which limits say what. Drawn to a scale it names; the
 * code opens the blade's page at `address`. A PDF with its fonts in it, tagged.
 */
export async function passport(
  database: Database,
  bladeId: string,
  { system, address, at }: { system: UnitSystem; address: string; at: string },
): Promise<{ readonly pdf: Buffer; readonly code: string }> {
  const [life, shop, head] = await Promise.all([
    bladeLife(database, bladeId),
    shopOf(database),
    headOf(database.connection),
  ]);
  const { blade, spec } = life;
  const { region } = shop.rules;
  const paper = new Paper($localize`Blade ${blade.code}`, {
    system,
    region,
    timeZone: shop.timeZone,
  });
  await head1(paper, life, shop.name, `${address}/blade/${bladeId}`);
  drawing(paper, life);
  paper.heading('H2', $localize`Now`);
  for (const words of standing(paper, life)) paper.paragraph(words);
  widthOverLife(paper, life);
  grinds(paper, life.cycles);
  limits(paper, life);
  damage(paper, life);
  mowers(paper, life);
  paper.caution();
  const pdf = await paper.end(
    $localize`${shop.name}, ${spec.figures.name}, ${blade.code}   ·   printed ${paper.day(at)}   ·   record ends at entry ${head.sequence}, ${head.hash.slice(0, 16)}…`,
  );
  return { pdf, code: blade.code };
}

async function head1(
  paper: Paper,
  { blade, spec }: BladeView,
  shop: string,
  page: string,
): Promise<void> {
  const { doc } = paper;
  const side = 20 * POINTS_PER_MM;
  const code = await bwip.toBuffer({ bcid: 'datamatrix', text: page, scale: 4, padding: 0 });
  const top = doc.y;
  paper.figureOf($localize`Code that opens the page of blade ${blade.code}`, 0, () => {
    doc.image(code, paper.left + paper.width - side, top, { width: side, height: side });
  });
  doc.y = top;
  paper.heading('H1', $localize`Blade ${blade.code}`);
  const { figures } = spec;
  paper.paragraph(
    $localize`${figures.name}, ${named(figures.kind)}, ${named(figures.hand)}-hand, ${named(figures.hole)} hole ${paper.show(figures.holeMm, 'mm')}. ${shop}.`,
  );
  paper.paragraph(
    $localize`As new ${paper.show(figures.newLengthMm, 'mm', 0)} long, ${paper.show(figures.newWidthMm, 'mm')} wide, ${paper.show(figures.thicknessMm, 'mm', 2)} thick, ${paper.show(figures.newMassG, 'g', 0)}, bevel ${paper.show(figures.bevelDeg, 'deg', 0)}.`,
  );
  doc.y = Math.max(doc.y, top + side) + 8;
}

/** The blade from above, to scale, its outline as new dashed and every mark of its life on it. */
function drawing(paper: Paper, { spec: { figures }, lengthMm, widths, marks }: BladeView): void {
  const { doc } = paper;
  const scale = paper.width / POINTS_PER_MM / Math.max(figures.newLengthMm, lengthMm);
  const k = scale * POINTS_PER_MM;
  const shape = (long: number, these: OutlineInput['widths']): OutlineInput => ({
    lengthMm: long,
    newWidthMm: figures.newWidthMm,
    hand: figures.hand,
    edgeLengthMm: figures.edgeLengthMm,
    widths: these,
  });
  const now = shape(lengthMm, widths);
  const height = figures.newWidthMm * k + 34;
  const ratio = paper.number(1 / scale, 1);
  paper.figureOf(
    $localize`The blade from above at 1 to ${ratio}:ph0:: ${ENDS.map((end) => $localize`end ${end} ${widths[end].map(({ widthMm, worked }) => `${worked ? '≈ ' : ''}${paper.show(widthMm, 'mm')}`).join(', ')}`).join('; ')} from root to tip`,
    height,
    (top) => {
      doc.translate(paper.left + paper.width / 2, top + 6 + (figures.newWidthMm * k) / 2);
      const pen = (points: readonly OutlinePoint[]): string =>
        `${
          line<OutlinePoint>(
            ({ xMm }) => xMm * k,
            ({ yMm }) => yMm * k,
          )([...points]) ?? ''
        }Z`;
      doc
        .path(pen(bladeOutline(shape(figures.newLengthMm, { A: [], B: [] }))))
        .lineWidth(0.6)
        .dash(3, { space: 2 })
        .stroke(QUIET)
        .undash();
      doc
        .path(pen(bladeOutline(now)))
        .lineWidth(1)
        .fillAndStroke('#eceae4', INK);
      doc
        .circle(0, 0, (figures.holeMm / 2) * k)
        .lineWidth(1)
        .stroke(INK);
      for (const { end, fromTipMm, kind } of marks) {
        const at = edgePoint(now, end, lengthMm / 2 - fromTipMm);
        const [x, y] = [at.xMm * k, at.yMm * k];
        const out = Math.sign(y) * (kind === 'crack' ? 9 : 6);
        doc.polygon([x, y], [x - 2.5, y + out], [x + 2.5, y + out]).fill(SPARK);
      }
      doc.font(STRONG).fontSize(9).fillColor(INK);
      const low = (figures.newWidthMm * k) / 2 + 6;
      doc.text('A', -paper.width / 2, low, { lineBreak: false });
      doc.text('B', paper.width / 2 - 8, low, { lineBreak: false });
      doc
        .font(TEXT)
        .fontSize(7.5)
        .fillColor(QUIET)
        .text(
          $localize`1 : ${ratio}. Dashed: as new.${marks.length > 0 ? $localize` Red: damage of its life, at its place.` : ''}`,
          -paper.width / 2 + 20,
          low + 1,
          { lineBreak: false },
        );
    },
  );
}

function standing(paper: Paper, life: BladeView): string[] {
  const { blade, cycles, cost, forecast, spec, series } = life;
  const last = series['mass']?.at(-1)?.value;
  const where =
    blade.state === 'on-mower' && blade.mowerName
      ? `${blade.mowerName}, ${blade.position ?? ''}`
      : placeSaid(blade.place);
  const retired = cycles.findLast(({ retireReason }) => retireReason)?.retireReason;
  const lines = [
    `${BLADE_STATES[blade.state].heading}${where ? ` (${where})` : ''}.${blade.state === 'retired' && retired ? $localize` ${RETIRE_REASONS[retired].words}:ph0:: never to be fitted again.` : ''}`,
    $localize`Ground ${paper.number(blade.grinds)} times${blade.usedSince ? $localize` here, and used before it came on ${paper.day(blade.usedSince)}` : ''}; mown ${paper.number(cost.hours)} h.${last === undefined ? '' : $localize` ${paper.show(last, 'g')} left of ${paper.show(spec.figures.newMassG, 'g', 0)}.`}`,
  ];
  if (forecast && blade.state !== 'retired') {
    const { grinds: left, hours, firstWords, guess } = forecast;
    lines.push(
      $localize`${paper.number(left.median)} more grinds, likely ${paper.number(left.low)} to ${paper.number(left.high)} (${paper.number(hours.low)} to ${paper.number(hours.high)} h), until its ${firstWords} is at its limit.${guess ? $localize` This is a guess: no blade of this spec has a history yet.` : ''}`,
    );
  }
  lines.push(
    $localize`It has cost ${paper.money(cost.total, cost.currency)} so far${cost.perHour === undefined ? '' : $localize`, ${paper.money(cost.perHour, cost.currency)} an hour mown`}.`,
  );
  return lines;
}

/** Width at the place that meets its limit first, over its grinds, with the limit and what is likely to come. */
function widthOverLife(paper: Paper, { forecast, cycles, fan, left, spec }: BladeView): void {
  const [quantity, end = '', station = ''] = (
    forecast?.first ??
    left.find(({ id }) => id.startsWith('width:'))?.id ??
    ''
  ).split(':');
  if (quantity !== 'width') return;
  const key = `${end}:${station}`;
  const read = cycles.flatMap(({ widthsMm }, i) => {
    const widthMm = widthsMm[key];
    return widthMm === undefined ? [] : [{ grinds: i + 1, widthMm }];
  });
  if (read.length < 2) return;
  const limit = left.find(({ id }) => id === `width:${key}`)?.limit;
  const likely = (fan[key] ?? []).map((each) => ({ ...each, grinds: each.grinds + cycles.length }));
  const all = [
    ...read.map(({ widthMm }) => widthMm),
    ...likely.map(({ low }) => low),
    spec.figures.newWidthMm,
    ...(limit === undefined ? [] : [limit]),
  ];
  const { doc } = paper;
  const height = 120;
  const name = spec.figures.stations.find((each) => each.key === station)?.name ?? station;
  paper.heading('H2', $localize`Width at end ${end}, ${name}`);
  paper.figureOf(
    $localize`From ${paper.show(read[0]?.widthMm ?? 0, 'mm')} to ${paper.show(read.at(-1)?.widthMm ?? 0, 'mm')} over ${cycles.length} times at the bench${limit === undefined ? '' : $localize`; its limit is ${paper.show(limit, 'mm')}`}`,
    height,
    (top) => {
      const x = scaleLinear(
        [0, Math.max(cycles.length, likely.at(-1)?.grinds ?? 0)],
        [paper.left + 34, paper.left + paper.width - 4],
      );
      const y = scaleLinear(
        [Math.min(...all), Math.max(...all)],
        [top + height - 20, top + 6],
      ).nice(4);
      for (const tick of y.ticks(4)) {
        doc
          .moveTo(x(0), y(tick))
          .lineTo(x.range()[1] ?? 0, y(tick))
          .lineWidth(0.4)
          .stroke(RULE);
        doc
          .fontSize(7)
          .fillColor(QUIET)
          .text(paper.figure(tick, 'mm', 0), paper.left, y(tick) - 4, {
            width: 28,
            align: 'right',
            lineBreak: false,
          });
      }
      for (const tick of x.ticks(8).filter(Number.isInteger))
        doc
          .fontSize(7)
          .fillColor(QUIET)
          .text(paper.number(tick), x(tick) - 10, top + height - 16, {
            width: 20,
            align: 'center',
            lineBreak: false,
          });
      const band = area<(typeof likely)[number]>(
        ({ grinds }) => x(grinds),
        ({ low }) => y(low),
        ({ high }) => y(high),
      )(likely);
      if (band) doc.path(band).fillOpacity(0.25).fill(QUIET).fillOpacity(1);
      const path = line<(typeof read)[number]>(
        ({ grinds }) => x(grinds),
        ({ widthMm }) => y(widthMm),
      )(read);
      if (path) doc.path(path).lineWidth(1.2).stroke(INK);
      for (const { grinds: n, widthMm } of read) doc.circle(x(n), y(widthMm), 1.8).fill(INK);
      if (limit !== undefined) {
        doc
          .moveTo(x(0), y(limit))
          .lineTo(x.range()[1] ?? 0, y(limit))
          .lineWidth(1)
          .stroke(SPARK);
        doc
          .fontSize(7)
          .fillColor(SPARK)
          .text($localize`limit ${paper.show(limit, 'mm')}`, x(0) + 4, y(limit) - 10, {
            lineBreak: false,
          });
      }
    },
  );
  paper.paragraph(
    $localize`Times at the bench, left to right; grey: where it is likely to be, four times in five.`,
    true,
  );
}

function grinds(paper: Paper, cycles: readonly CycleSummary[]): void {
  const signed = cycles.filter(({ signedAt }) => signedAt);
  if (signed.length === 0) return;
  paper.heading('H2', $localize`At the bench`);
  paper.table(
    grindColumns(paper),
    signed.map((cycle) => grindRow(paper, cycle)),
  );
}

function limits(paper: Paper, { left }: BladeView): void {
  const rows = left.filter(({ limit, value }) => limit !== undefined && value !== undefined);
  if (rows.length === 0) return;
  const shown = (value: number | undefined, unit: string | undefined): string => {
    if (value === undefined) return '';
    if (unit === 'mm' || unit === 'g' || unit === 'deg')
      return paper.show(value, unit, unit === 'deg' ? 1 : 2);
    return paper.number(value);
  };
  paper.heading('H2', $localize`Limits, the first to be met on top`);
  paper.table(
    [
      { head: $localize`What`, share: 30 },
      { head: $localize`Last read`, share: 13, align: 'right' },
      { head: $localize`Limit`, share: 13, align: 'right' },
      { head: $localize`Left, ± its doubt`, share: 18, align: 'right' },
      { head: $localize`Where the limit comes from`, share: 34 },
    ],
    rows.map(({ about, id, value, limit, unit, margin, expandedUncertainty, source }) => [
      about === undefined ? id : paper.resay(about),
      shown(value, unit),
      shown(limit, unit),
      margin === undefined
        ? ''
        : [shown(margin, unit).replace(/\s\S+$/, ''), shown(expandedUncertainty, unit)]
            .filter(Boolean)
            .join(' ± '),
      source ?? '',
    ]),
  );
}

function damage(paper: Paper, { marks, cycles }: BladeView): void {
  if (marks.length === 0) return;
  paper.heading('H2', $localize`Damage`);
  paper.table(
    [
      { head: $localize`Found`, share: 14 },
      { head: $localize`What`, share: 20 },
      { head: $localize`End`, share: 8 },
      { head: $localize`From the tip, ${paper.unit('mm')}`, share: 18, align: 'right' },
      { head: $localize`Depth, ${paper.unit('mm')}`, share: 16, align: 'right' },
      { head: '', share: 24 },
    ],
    marks.map(({ kind, end, fromTipMm, depthMm, cycle, returns }) => [
      paper.day(cycles[cycle - 1]?.openedAt ?? ''),
      DAMAGE[kind].words,
      end,
      paper.figure(fromTipMm, 'mm', 0),
      paper.figure(depthMm, 'mm', 2),
      returns ? $localize`came back at its place` : '',
    ]),
  );
}

function mowers(paper: Paper, { fits }: BladeView): void {
  if (fits.length === 0) return;
  paper.heading('H2', $localize`Mowers`);
  paper.table(
    [
      { head: $localize`Mower`, share: 30 },
      { head: $localize`Spindle`, share: 20 },
      { head: $localize`From`, share: 20 },
      { head: 'To', share: 20 },
      { head: $localize`Hours`, share: 10, align: 'right' },
    ],
    fits.map(({ mowerName, position, from, to, hoursH }) => [
      mowerName,
      position,
      paper.day(from),
      to ? paper.day(to) : $localize`still on`,
      hoursH === undefined ? '' : paper.number(hoursH),
    ]),
  );
}
