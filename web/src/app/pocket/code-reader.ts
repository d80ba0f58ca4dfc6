import { Injectable } from '@angular/core';

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

/** Reads the code of a tag from a picture: by the browser's own reader where it has one, else by a package. */
@Injectable({ providedIn: 'root' })
export class CodeReader {
  private own: Promise<OwnReader | undefined> | undefined;

  private ownReader(): Promise<OwnReader | undefined> {
    this.own ??= (async () => {
      const { BarcodeDetector: own } = globalThis as { BarcodeDetector?: OwnReaders };
      const formats = (await own?.getSupportedFormats().catch(() => [])) ?? [];
      return own && formats.includes(FORMAT) ? new own({ formats: [FORMAT] }) : undefined;
    })();
    return this.own;
  }

  /** The text of the code, or nothing where there is none to be read. */
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
    const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
    const { BinaryBitmap, DataMatrixReader, DecodeHintType, HybridBinarizer, RGBLuminanceSource } =
      await import('@zxing/library');
    const grey = new Uint8ClampedArray(canvas.width * canvas.height);
    for (let i = 0; i < grey.length; i++)
      grey[i] =
        0.299 * (data[4 * i] ?? 0) +
        0.587 * (data[4 * i + 1] ?? 0) +
        0.114 * (data[4 * i + 2] ?? 0);
    const light = new RGBLuminanceSource(grey, canvas.width, canvas.height);
    try {
      return new DataMatrixReader()
        .decode(
          new BinaryBitmap(new HybridBinarizer(light)),
          new Map([[DecodeHintType.TRY_HARDER, true]]),
        )
        .getText();
    } catch {
      // The package throws where there is no code.
      return undefined;
    }
  }
}

/** What a code stands for: a blade's page where the code is its address, else a stamp. */
export function codeOf(text: string): { readonly bladeId: string } | { readonly stamp: string } {
  const bladeId = /^https?:\/\/\S+\/blade\/([^/?#\s]+)/.exec(text)?.[1];
  return bladeId ? { bladeId: decodeURIComponent(bladeId) } : { stamp: text.trim() };
}
