import type { RecordView } from '@tally-stone/contract';
import { Served } from '../../testing/served';
import { ShopRecord } from './shop-record';

const view = (change: Partial<RecordView> = {}): RecordView => ({
  head: { sequence: 812, hash: 'ab'.repeat(32) },
  folder: '/srv/backups',
  newest: { at: '2026-05-04T02:15:00Z', file: 'x.sqlite' },
  room: { freeMb: 52_000, low: false },
  old: false,
  ...change,
});

describe('the record on the shop’s page', () => {
  it('says when the last backup was made, and what to write down', async () => {
    const page = await Served.open(ShopRecord, { '/api/v1/record': view() });
    expect(page.text).toContain('opened and found whole, in /srv/backups');
    expect(page.text).toContain(`812:${'ab'.repeat(32)}`);
    expect(page.element.querySelector('.bad')).toBeNull();
  });
  it('warns where there is none', async () => {
    const none: RecordView = {
      head: view().head,
      folder: '/srv/backups',
      room: view().room,
      old: true,
    };
    const page = await Served.open(ShopRecord, { '/api/v1/record': none });
    expect(page.find('.bad').textContent).toContain('the only copy');
  });
  it('warns where the last one is old', async () => {
    const page = await Served.open(ShopRecord, { '/api/v1/record': view({ old: true }) });
    expect(page.find('.bad').textContent).toContain('older than two days');
  });
  it('warns while the disk still has some room', async () => {
    const page = await Served.open(ShopRecord, {
      '/api/v1/record': view({ room: { freeMb: 320, low: true } }),
    });
    expect(page.find('.bad').textContent).toContain('nearly full, 320 MB are left');
  });
});
