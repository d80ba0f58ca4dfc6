import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  type ElementRef,
  inject,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { CodeReader } from './code-reader';
import { Pocket } from './pocket';

const CANNOT = $localize`The camera cannot be used here: take a photo of the tag, or type its code.`;
const NO_CODE = $localize`There is no code to be read on this photo: go nearer, straight above the tag.`;
/** The camera's picture is looked at so often, ms. */
const LOOK_EVERY_MS = 250;

/** Reads the code of a tag: by the camera where the browser lets us, else from a photo of the tag. */
@Component({
  selector: 'ts-scan',
  imports: [MatButtonModule, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (pocket.hasCamera) {
      <button
        i18n
        mat-stroked-button
        class="big"
        type="button"
        (click)="looking() ? stop() : look()"
      >
        <mat-icon svgIcon="scan" />
        @if (looking()) {
          Stop the camera
        } @else {
          Scan by camera
        }
      </button>
    }
    @if (!pocket.hasCamera || trouble()) {
      <input
        #picker
        hidden
        type="file"
        accept="image/*"
        capture="environment"
        aria-label="Photo of the tag"
        i18n-aria-label
        (change)="picked(picker)"
      />
      <button i18n mat-stroked-button class="big" type="button" (click)="picker.click()">
        <mat-icon svgIcon="scan" />Photo of the tag
      </button>
    }
    @if (looking()) {
      <video #video muted playsinline aria-label="What the camera sees" i18n-aria-label></video>
    }
    <p role="status">{{ trouble() }}</p>
  `,
  styles: `
    :host {
      display: contents;
    }
    video {
      flex-basis: 100%;
      max-width: 26.25rem;
      border: 2px solid var(--rule);
    }
    p {
      flex-basis: 100%;
      margin: 0;
      color: var(--bad);
    }
    p:empty {
      display: none;
    }
  `,
})
export class Scan {
  private readonly reader = inject(CodeReader);
  protected readonly pocket = inject(Pocket);
  /** What the code says. */
  readonly read = output<string>();
  protected readonly looking = signal(false);
  protected readonly trouble = signal('');
  private readonly video = viewChild<ElementRef<HTMLVideoElement>>('video');
  private stream: MediaStream | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.stop();
    });
  }

  protected async look(): Promise<void> {
    this.trouble.set('');
    try {
      this.stream = await navigator.mediaDevices.getUserMedia({
        video: { facingMode: 'environment' },
      });
    } catch {
      this.trouble.set(CANNOT);
      return;
    }
    this.looking.set(true);
    setTimeout(() => {
      this.watch().catch(() => {
        this.stop();
        this.trouble.set(CANNOT);
      });
    });
  }

  /** Looks again and again until there is a code, or the camera is stopped. */
  private async watch(): Promise<void> {
    const video = this.video()?.nativeElement;
    if (!video || !this.stream) return;
    video.srcObject = this.stream;
    await video.play();
    while (this.looking()) {
      const picture = await createImageBitmap(video);
      const text = await this.reader.read(picture);
      picture.close();
      if (text) {
        this.stop();
        this.read.emit(text);
        return;
      }
      await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
    }
  }

  protected stop(): void {
    this.looking.set(false);
    for (const track of this.stream?.getTracks() ?? []) track.stop();
    this.stream = undefined;
  }

  protected async picked(picker: HTMLInputElement): Promise<void> {
    const [file] = picker.files ?? [];
    picker.value = '';
    if (!file) return;
    const picture = await createImageBitmap(file).catch(() => undefined);
    try {
      const text = picture && (await this.reader.read(picture));
      this.trouble.set(text ? '' : NO_CODE);
      if (text) this.read.emit(text);
    } catch (error) {
      this.trouble.set((error as Error).message);
    } finally {
      picture?.close();
    }
  }
}
