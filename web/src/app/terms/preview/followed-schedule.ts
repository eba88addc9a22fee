import { computed, inject, signal, type Signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { animationFrameScheduler, auditTime, map, startWith, switchMap, tap } from 'rxjs';
import type { TermsForm } from '../form/terms-form';
import type { TermsReading } from '../form/terms-reading';
import { byStretch } from './by-stretch';
import type { PreviewAnswer } from './schedule-preview';
import { SchedulePreviewService } from './schedule-preview.service';

/** A schedule that follows what is typed. Made where things can be injected. */
export class FollowedSchedule {
  private readonly answered = signal<Extract<PreviewAnswer, { ok: true }> | undefined>(undefined);
  /** The last schedule that what was typed made. */
  readonly made = this.answered.asReadonly();
  /** The same, but only while it is of what is typed now. */
  readonly current: Signal<ReturnType<typeof this.made>>;
  /** Whether it is still to follow what was typed last. */
  private following = false;
  private next: (() => void) | undefined;

  constructor(form: TermsForm, read: TermsReading) {
    const previews = inject(SchedulePreviewService);
    this.current = computed(() => (read.stale() ? undefined : this.made()));
    form.valueChanges
      .pipe(
        startWith(undefined),
        tap(() => {
          read.refused.set([]);
          this.following = true;
          this.next = undefined;
        }),
        auditTime(0, animationFrameScheduler),
        map(() => read.ofNow()),
        switchMap(({ document, faults, missing, stretchOf }) => {
          const complete = missing.every((key) => key === 'name') && faults.length === 0;
          if (!complete) return [undefined];
          return previews.read(document).pipe(map((answer) => answer && byStretch(answer, stretchOf)));
        }),
        takeUntilDestroyed(),
      )
      .subscribe((answer) => {
        read.worked.set(answer?.ok === false ? answer.faults : []);
        if (answer?.ok) this.answered.set(answer);
        this.following = false;
        const work = this.next;
        this.next = undefined;
        work?.();
      });
  }

  /** Does something as soon as the schedule follows what is typed; not at all where something is typed before. */
  once(work: () => void): void {
    if (this.following) this.next = work;
    else work();
  }

  forget(): void {
    this.answered.set(undefined);
  }
}
