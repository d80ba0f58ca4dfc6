import { DOCUMENT, inject, Injectable } from '@angular/core';
import type { CodeAnswer, CodeQuestion } from './code.worker';

/** The part of the browser's own reader that is used (Shape Detection API; a draft, so not in its types yet). */
interface OwnReader {
  detect(picture: ImageBitmapSource): Promise<readonly { readonly rawValue: string }[]>;
}
interface OwnReaders {
  new (how: { readonly formats: readonly string[] }): OwnReader;
  getSupportedFormats(): Promise<readonly string[]>;
}

/** What our labels and tags are printed in. */
const FORMAT = 'data_matrix';
/** A code is looked for in a picture no larger than this: a tag fills much of it. */
const LONG_SIDE_PX = 1200;

/** Reads the code of a tag from a picture: by the browser's own reader where it has one, else by a package in a worker. */
@Injectable({ providedIn: 'root' })
export class CodeReader {
  private readonly reader = new URL('zxing_reader.wasm', inject(DOCUMENT).baseURI).href;
  private own: Promise<OwnReader | undefined> | undefined;
  private worker: Worker | undefined;

  private ownReader(): Promise<OwnReader | undefined> {
    this.own ??= (async () => {
      const { BarcodeDetector: own } = globalThis as { BarcodeDetector?: OwnReaders };
      const formats = (await own?.getSupportedFormats().catch(() => [])) ?? [];
      return own && formats.includes(FORMAT) ? new own({ formats: [FORMAT] }) : undefined;
    })();
    return this.own;
  }

  /** The text of the code, or nothing where there is none to be read. Errors: where this browser cannot look at all. */
  async read(picture: ImageBitmap): Promise<string | undefined> {
    const own = await this.ownReader();
    if (own) return (await own.detect(picture))[0]?.rawValue;
    const by = Math.min(1, LONG_SIDE_PX / Math.max(picture.width, picture.height));
    const canvas = new OffscreenCanvas(
      Math.round(picture.width * by),
      Math.round(picture.height * by),
    );
    const context = canvas.getContext('2d');
    if (!context) return undefined;
    context.drawImage(picture, 0, 0, canvas.width, canvas.height);
    return this.ask(context.getImageData(0, 0, canvas.width, canvas.height));
  }

  /** Asks the worker, which is kept for the next picture: its reader takes longer to load than a picture to read. */
  private ask(picture: ImageData): Promise<string | undefined> {
    const worker = (this.worker ??= new Worker(new URL('./code.worker', import.meta.url), {
      type: 'module',
    }));
    return new Promise((resolve, reject) => {
      const done = new AbortController();
      worker.addEventListener(
        'message',
        ({ data }: MessageEvent<CodeAnswer>) => {
          done.abort();
          resolve(data.text);
        },
        done,
      );
      worker.addEventListener(
        'error',
        () => {
          done.abort();
          worker.terminate();
          this.worker = undefined;
          reject(new Error($localize`This browser cannot look for codes: type it.`));
        },
        done,
      );
      const question: CodeQuestion = { picture, reader: this.reader };
      worker.postMessage(question, [picture.data.buffer]);
    });
  }
}

/** What a code stands for: a blade's page where the code is its address, else a stamp. */
export function codeOf(text: string): { readonly bladeId: string } | { readonly stamp: string } {
  const bladeId = /^https?:\/\/\S+\/blade\/([^/?#\s]+)/.exec(text)?.[1];
  return bladeId ? { bladeId: decodeURIComponent(bladeId) } : { stamp: text.trim() };
}
