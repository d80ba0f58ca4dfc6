import { placeSaid } from '@tally-stone/core/basics';
import { shown } from '../data/shown';
import type { ElementRef } from '@angular/core';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { Router, RouterLink } from '@angular/router';
import { PROBLEMS, type BladeRow } from '@tally-stone/contract';
import { firstValueFrom } from 'rxjs';
import { Api } from '../data/api';
import { Commands, newId } from '../data/commands';
import { Instruments } from '../data/instruments';
import { Keys } from '../data/keys';
import { troubleFrom, type Trouble } from '../data/problem';
import { Days } from '../data/days';
import { Region } from '../data/region';
import { Units } from '../data/units';
import { codeOf } from '../pocket/code-reader';
import { Scan } from '../pocket/scan';
import { Tally } from '../parts/tally';
import { CheckBlade } from './check-blade';
import { FirstDay } from '../first-day/first-day';
import { TourOffer } from '../tour/tour-offer';
import { FindBlade } from './find-blade';

/** The bench: a code goes in, a blade comes up. Under it what is in hand and what waits. */
@Component({
  selector: 'ts-bench',
  imports: [
    PlacePipe,
    PageState,
    MatButtonModule,
    MatIconModule,
    RouterLink,
    CheckBlade,
    FindBlade,
    FirstDay,
    Scan,
    Tally,
    TourOffer,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './bench.html',
  styleUrl: './bench.scss',
})
export class Bench {
  private readonly api = inject(Api);
  private readonly commands = inject(Commands);
  private readonly router = inject(Router);
  protected readonly units = inject(Units);
  private readonly codeField = viewChild<ElementRef<HTMLInputElement>>('codeField');

  protected readonly shownBench = shown(() => this.api.bench(), { quietMs: 200 });
  protected readonly bench = this.shownBench.value;
  protected readonly trouble = this.shownBench.trouble;
  /** Nothing can be scanned yet: the first day's board has the way on. */
  protected readonly noBlades = computed(() => this.bench()?.counts.all === 0);
  protected readonly codeTrouble = signal<Trouble | undefined>(undefined);
  protected readonly code = signal('');
  protected readonly finding = signal(false);
  protected readonly days = inject(Days);
  protected readonly region = inject(Region);

  constructor() {
    afterNextRender(() => this.codeField()?.nativeElement.focus());
    // Scanned where the blade before was signed off. Back and forth it is no scan.
    const { trigger, extras } = this.router.currentNavigation() ?? {};
    const scanned: unknown = extras?.state?.['code'];
    if (trigger === 'imperative' && typeof scanned === 'string') void this.scanned(scanned);
    inject(Instruments)
      .codes$.pipe(takeUntilDestroyed())
      .subscribe((code) => {
        this.code.set(code);
        void this.enterCode();
      });
    const stop = inject(Keys).use([
      {
        key: '/',
        does: $localize`To the code field`,
        run: () => this.codeField()?.nativeElement.focus(),
      },
      {
        key: 'f',
        does: $localize`Find a blade whose stamp cannot be read`,
        // No stamp has an F, an R or a question mark.
        inEmptyField: true,
        run: () => this.finding.set(true),
      },
    ]);
    inject(DestroyRef).onDestroy(stop);
  }

  /** A code that a camera read: a tag's stamp, or the address of a blade's page. */
  protected async scanned(text: string): Promise<void> {
    const code = codeOf(text);
    if ('bladeId' in code) {
      await this.router.navigate(['/blade', code.bladeId]);
      return;
    }
    this.code.set(code.stamp);
    await this.enterCode();
  }

  protected async enterCode(): Promise<void> {
    try {
      const { blade } = await firstValueFrom(this.api.code(this.code().trim() || ' '));
      this.codeTrouble.set(undefined);
      await this.takeUp(blade);
    } catch (error) {
      const trouble = troubleFrom(error);
      this.codeTrouble.set(trouble);
      if (trouble.type === PROBLEMS.unknownCode) this.finding.set(true);
      this.codeField()?.nativeElement.select();
    }
  }

  /** A blade in hand goes on where it was; a waiting one is opened; any other shows its page. */
  protected async takeUp(blade: BladeRow): Promise<void> {
    if (blade.cycleId) {
      await this.router.navigate(['/run', blade.cycleId]);
      return;
    }
    if (!['waiting', 'new', 'hold'].includes(blade.state)) {
      await this.router.navigate(['/blade', blade.bladeId]);
      return;
    }
    const cycleId = newId();
    try {
      await firstValueFrom(
        this.commands.shop({ type: 'open-cycle', cycleId, bladeId: blade.bladeId }),
      );
      await this.router.navigate(['/run', cycleId]);
    } catch (error) {
      this.codeTrouble.set(troubleFrom(error));
    }
  }

  /** The mower it came off, after its place; nothing where it was on none. */
  protected cameOff({ mowerName, position }: BladeRow): string {
    return mowerName ? $localize`, off ${mowerName}, ${position ?? ''}` : '';
  }

  protected where(blade: BladeRow): string {
    return blade.mowerName ? `${blade.mowerName}, ${blade.position ?? ''}` : placeSaid(blade.place);
  }
}
import { PageState } from '../parts/state';
import { PlacePipe } from '../parts/named.pipe';
