/// <reference lib="webworker" />
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';

/** A picture to look for a code in, and where the reader's WebAssembly is served. */
export interface CodeQuestion {
  readonly picture: ImageData;
  readonly reader: string;
}
/** The text of the code; nothing where there is none to be read. */
export interface CodeAnswer {
  readonly text: string | undefined;
}

let asked = '';
addEventListener('message', ({ data: { picture, reader } }: MessageEvent<CodeQuestion>) => {
  // From this server, and nowhere else.
  if (asked !== reader) prepareZXingModule({ overrides: { locateFile: () => reader } });
  asked = reader;
  readBarcodes(picture, { formats: ['DataMatrix'], tryHarder: true, maxNumberOfSymbols: 1 }).then(
    ([found]) => {
      postMessage({ text: found?.text } satisfies CodeAnswer);
    },
    (error: unknown) => {
      // As an error of the worker: whoever asked is told.
      setTimeout(() => {
        throw error;
      });
    },
  );
});
