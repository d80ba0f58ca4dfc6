import { HttpClient } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import { BenchError, listed, rainFrom, type DailyRain, type RainModel } from '@tally-stone/core';
import Papa from 'papaparse';
import { firstValueFrom } from 'rxjs';

/** From so much rain on a day the mowers stay in. Common practice, no source. */
export const RAINED_OUT_MM = 4;
const OPEN_SERIES = '/weather/seattle-weather.csv';

const DAY_COLUMNS = ['date', 'day', 'datum'];
const RAIN_COLUMNS = ['precipitation', 'rain', 'rainfall', 'prcp', 'rain_mm', 'rainmm'];

/** Daily rain out of a CSV file with a column for the day (2027-03-29) and one for the rain in mm. */
export function dailyRain(text: string): DailyRain[] {
  const { data, meta } = Papa.parse<Record<string, string>>(text.trim(), {
    header: true,
    skipEmptyLines: true,
    transformHeader: (name) => name.trim().toLowerCase(),
  });
  const column = (names: readonly string[], what: string): string => {
    const found = meta.fields?.find((field) => names.includes(field));
    if (!found) {
      throw new BenchError(
        what,
        $localize`is not in the file: name its column ${listed(names.slice(0, 2), 'or')}`,
      );
    }
    return found;
  };
  const day = column(DAY_COLUMNS, $localize`The day`);
  const rain = column(RAIN_COLUMNS, $localize`The rain`);
  return data.map((row, i) => {
    const rainMm = Number((row[rain] ?? '').replace(',', '.'));
    if (!Number.isFinite(rainMm) || row[rain]?.trim() === '') {
      throw new BenchError(
        $localize`The rain in line ${i + 2}`,
        $localize`is not a number`,
        row[rain],
      );
    }
    return { day: (row[day] ?? '').trim().slice(0, 10), rainMm };
  });
}

/** Weather for the season: the open series that ships with the app, or a file of the shop's own. */
@Injectable({ providedIn: 'root' })
export class Weather {
  private readonly http = inject(HttpClient);

  async openSeries(): Promise<RainModel> {
    const text = await firstValueFrom(this.http.get(OPEN_SERIES, { responseType: 'text' }));
    return rainFrom(dailyRain(text), RAINED_OUT_MM);
  }

  async ownFile(file: Blob): Promise<RainModel> {
    return rainFrom(dailyRain(await file.text()), RAINED_OUT_MM);
  }
}
