import { provideHttpClient, withInterceptors } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { datamatrix, drawingCanvas } from 'bwip-js/browser';
import { Api } from '../data/api';
import { Icons } from '../data/icons';
import { CodeReader, codeOf } from './code-reader';
import { noticeKept, Pocket } from './pocket';
import { Scan } from './scan';

describe('the app in a pocket', () => {
  it('knows what was kept from what the server answers, and forgets it when the server is back', () => {
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(withInterceptors([noticeKept])),
        provideHttpClientTesting(),
      ],
    });
    const [pocket, http] = [TestBed.inject(Pocket), TestBed.inject(HttpTestingController)];
    const answer = (seenAt?: string): void => {
      TestBed.inject(Api).bench().subscribe();
      http.expectOne('/api/v1/bench').flush({}, seenAt ? { headers: { 'x-seen-at': seenAt } } : {});
    };
    answer('2026-11-28T08:00:00Z');
    answer('2026-11-29T08:00:00Z');
    // A page put together of several answers is as old as the oldest.
    expect(pocket.seenAt()).toBe('2026-11-28T08:00:00Z');
    answer();
    expect(pocket.seenAt()).toBeUndefined();
  });

  it('takes a code for a stamp, or for the blade whose page it is the address of', () => {
    expect(codeOf(' 47KAX ')).toEqual({ stamp: '47KAX' });
    expect(codeOf('http://10.0.0.4:4400/blade/b%20x?x=1')).toEqual({ bladeId: 'b x' });
  });
});

describe('a tag that is scanned', () => {
  /** A photo of a tag: its code on paper that is not quite white, a little turned. */
  async function photoOf(text: string, turnedRad = 0.06): Promise<Blob> {
    const tag = document.createElement('canvas');
    datamatrix({ bcid: 'datamatrix', text, scale: 10 }, drawingCanvas(tag));
    const photo = new OffscreenCanvas(900, 700);
    const context = photo.getContext('2d');
    if (!context) throw new Error('no canvas');
    context.fillStyle = '#e4e0d8';
    context.fillRect(0, 0, 900, 700);
    context.translate(450, 350);
    context.rotate(turnedRad);
    context.drawImage(tag, -tag.width / 2, -tag.height / 2);
    return photo.convertToBlob({ type: 'image/jpeg', quality: 0.8 });
  }

  it('is read from a photo, and a photo without one reads as nothing', async () => {
    const reader = TestBed.inject(CodeReader);
    const read = async (photo: Blob) => reader.read(await createImageBitmap(photo));
    // However the phone is held.
    for (const turnedDeg of [0, 3, 12, 30, 45, 80, 171, 300])
      expect(await read(await photoOf('47KAX', (turnedDeg * Math.PI) / 180)))
        .withContext(`turned by ${turnedDeg}°`)
        .toBe('47KAX');
    const bare = new OffscreenCanvas(300, 200);
    bare.getContext('2d')?.fillRect(20, 20, 90, 60);
    expect(await read(await bare.convertToBlob())).toBeUndefined();
  });

  it('goes by a photo where the camera cannot be had, and says so', async () => {
    spyOn(navigator.mediaDevices, 'getUserMedia').and.rejectWith(new Error('none'));
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    TestBed.inject(Icons);
    const fixture = TestBed.createComponent(Scan);
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const codes: string[] = [];
    fixture.componentInstance.read.subscribe((text) => codes.push(text));
    host.querySelector('button')?.click();
    await fixture.whenStable();
    expect(host.querySelector('[role=status]')?.textContent).toContain(
      'camera cannot be used here',
    );
    const picker = host.querySelector<HTMLInputElement>('input[type=file]');
    const files = new DataTransfer();
    files.items.add(new File([await photoOf('QR7KD')], 'tag.jpg', { type: 'image/jpeg' }));
    if (!picker) throw new Error('no picker');
    picker.files = files.files;
    picker.dispatchEvent(new Event('change'));
    const until = Date.now() + 5000;
    while (codes.length === 0 && Date.now() < until) await new Promise((go) => setTimeout(go, 50));
    expect(codes).toEqual(['QR7KD']);
  });
});
