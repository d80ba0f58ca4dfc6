import {
  ChangeDetectionStrategy,
  Component,
  inject,
  Injector,
  provideZonelessChangeDetection,
} from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { onceDrawn } from './once-drawn';

@Component({
  selector: 'ts-drawn',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '',
})
class Drawn {
  readonly injector = inject(Injector);
}

describe('what is done once a screen is drawn', () => {
  it('is done after the next drawing, and not at all where the screen was left meanwhile', async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent(Drawn);
    const done: string[] = [];
    onceDrawn(fixture.componentInstance.injector, () => done.push('shown'));
    fixture.changeDetectorRef.markForCheck();
    await fixture.whenStable();
    expect(done).toEqual(['shown']);
    fixture.destroy();
    expect(() => {
      onceDrawn(fixture.componentInstance.injector, () => done.push('left'));
    }).not.toThrow();
    await fixture.whenStable();
    expect(done).toEqual(['shown']);
  });
});
