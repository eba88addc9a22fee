import { stretchForm } from './stretch-form';
import { eventForm, type EventType } from './event-form';
import { putBack, termsForm, type TypedTerms } from './terms-form';
import { UndoHistory } from './undo-history';
import { begunFrom, firstDayOfEvent, type StartingPoint } from '../starting-points';
import type { TimelineAct } from '../timeline/timeline';
import { carryOut } from '../timeline/carry-out';

/** Terms on a form, and what is done to them at once, each a step that can be taken back. */
export class TermsEditor {
  readonly form = termsForm();
  readonly history = new UndoHistory();

  private get stretches(): ReturnType<typeof termsForm>['controls']['loan']['controls']['stretches'] {
    return this.form.controls.loan.controls.stretches;
  }

  /** Notes what was typed since the last step. */
  note(): void {
    this.history.note(this.form.getRawValue());
  }

  /** What is done at once is a step of its own, and so is what was typed until then. */
  private step(work: () => void): void {
    this.note();
    work();
    this.note();
  }

  /** Another stretch at a place. */
  addStretch(at = this.stretches.length): void {
    this.step(() => this.stretches.insert(at, stretchForm()));
  }

  /** Moves a stretch by some places; `false` where there is no such place. */
  moveStretch(at: number, by: number): boolean {
    const moved = this.stretches.at(at);
    if (at + by < 0 || at + by >= this.stretches.length) return false;
    this.step(() => {
      this.stretches.removeAt(at, { emitEvent: false });
      this.stretches.insert(at + by, moved);
    });
    return true;
  }

  /** What is left at the end is paid with the last payment after all. */
  payAtEnd(): void {
    this.step(() => this.form.controls.loan.controls.atEnd.setValue('pay'));
  }

  /** Another event, on the first day that makes sense for it. Gives its place. */
  addEvent(type: EventType, dues: readonly number[], on: number | undefined): number {
    const { events } = this.form.controls.loan.controls;
    const day = firstDayOfEvent(type, this.form.getRawValue().loan, dues, on);
    this.step(() => events.push(eventForm({ type, on: day, from: day })));
    return events.length - 1;
  }

  /** Does what was done on the timeline; what is dragged is one step once it stays. */
  act(act: TimelineAct, dues: readonly number[]): void {
    const work = (): void => carryOut(act, this.form.controls.loan, dues);
    if (act.act === 'place' && act.dragged) work();
    else this.step(work);
  }

  /** Begins from a common agreement; amounts, rates and dates stay as typed. */
  begin(point: StartingPoint): void {
    this.step(() => putBack(this.form, begunFrom(point, this.form.getRawValue())));
  }

  undo(): void {
    this.restore(this.history.undo<TypedTerms>());
  }

  redo(): void {
    this.restore(this.history.redo<TypedTerms>());
  }

  private restore(typed: TypedTerms | undefined): void {
    if (typed) putBack(this.form, typed);
  }

  clear(): void {
    putBack(this.form, termsForm().getRawValue());
  }
}
