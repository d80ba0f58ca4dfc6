import {
  HttpErrorResponse,
  HttpEventType,
  HttpResponse,
  type HttpEvent,
} from '@angular/common/http';
import { TestBed } from '@angular/core/testing';
import { NEVER, of, throwError, type Observable } from 'rxjs';
import { Api } from '../data/api';
import { Served } from '../../testing/served';
import { BringShop } from './bring-shop';

const lines = (...says: object[]): string =>
  says.map((each) => `${JSON.stringify(each)}\n`).join('');
const partly = (partialText: string) =>
  ({ type: HttpEventType.DownloadProgress, loaded: 1, partialText }) as HttpEvent<string>;

describe('bringing a shop in', () => {
  const chosen = async (answer: Observable<HttpEvent<string>>) => {
    TestBed.resetTestingModule();
    const page = await Served.open(BringShop, {});
    const api = TestBed.inject(Api);
    const sent = spyOn(api, 'bringShop').and.returnValue(answer);
    const field = page.find<HTMLInputElement>('input[type=file]');
    const files = new DataTransfer();
    files.items.add(new File(['zip'], 'shop.zip'));
    field.files = files.files;
    field.dispatchEvent(new Event('change'));
    await page.settle();
    return { page, sent };
  };

  it('says how far it is, and what came', async () => {
    const half = await chosen(of(partly(`${lines({ resource: 'reading', rows: 3000 })}{"res`)));
    expect(half.sent).toHaveBeenCalledTimes(1);
    const done = { blades: 139, mowers: 14, signedCycles: 1, entries: 13894, photos: 0 };
    const { page } = await chosen(
      of(new HttpResponse({ body: lines({ resource: 'pass', rows: 5 }, { done }) })),
    );
    expect(page.text).toContain('139 blades, 14 mowers, 0 photos. 1 signed grind proved');
    expect(page.find('.next-thing').textContent).toContain('Open the shop');
  });

  it('can be cancelled while it goes on', async () => {
    const { page } = await chosen(NEVER);
    expect(page.text).toContain('Sending shop.zip');
    await page.click('Cancel');
    expect(page.text).toContain('Cancelled: nothing was brought in.');
    expect(page.text).toContain('Bring in an exported shop');
  });

  it('says what was refused, also when it came in the middle', async () => {
    const problem = {
      type: 'about:blank',
      title: 'A field needs another look',
      status: 422,
      detail: 'cycle.csv is missing from the package. Nothing was brought in.',
    };
    const { page } = await chosen(of(new HttpResponse({ body: lines({ problem }) })));
    expect(page.find('[role=alert]').textContent).toContain('cycle.csv is missing');
    const failed = await chosen(throwError(() => new HttpErrorResponse({ status: 0 })));
    expect(failed.page.text).toContain('The server does not answer.');
    expect(failed.page.text).not.toContain('Open the shop');
  });
});
