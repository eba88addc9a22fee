import { computed, signal } from '@angular/core';

const mostSteps = 200;

/** What was typed, step by step, so that each step can be taken back and made again. */
export class UndoHistory {
  private readonly steps = signal<readonly string[]>([]);
  private readonly at = signal(-1);
  readonly canUndo = computed(() => this.at() > 0);
  readonly canRedo = computed(() => this.at() < this.steps().length - 1);

  /** Begins anew from a state. */
  begin(state: unknown): void {
    this.steps.set([JSON.stringify(state)]);
    this.at.set(0);
  }

  /** Notes a state that differs from the last; what was undone before can then no longer be made again. */
  note(state: unknown): void {
    const text = JSON.stringify(state);
    if (text === this.steps()[this.at()]) return;
    const steps = [...this.steps().slice(0, this.at() + 1), text].slice(-mostSteps);
    this.steps.set(steps);
    this.at.set(steps.length - 1);
  }

  /** The state before the last step. */
  undo<State>(): State | undefined {
    return this.step<State>(-1, this.canUndo());
  }

  /** The state after a step that was taken back. */
  redo<State>(): State | undefined {
    return this.step<State>(1, this.canRedo());
  }

  private step<State>(by: number, can: boolean): State | undefined {
    if (!can) return undefined;
    this.at.update((at) => at + by);
    return JSON.parse(this.steps()[this.at()] as string) as State;
  }
}
