import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { debounceTime, from, map, switchMap } from 'rxjs';
import { leastPassword } from '@coffer/contract';

const told = ['guessed at once', 'easy to guess', 'fair', 'good', 'hard to guess'] as const;

/** How hard a password that is being chosen is to guess, and what it still lacks. */
@Component({
  selector: 'coffer-password-meter',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="bars" aria-hidden="true">
      @for (bar of [1, 2, 3, 4]; track bar) {
        <i [class.on]="score() >= bar" [class.weak]="weak()"></i>
      }
    </span>
    <span role="status" [class.agreed]="good()" [class.wrong]="weak()">{{ sentence() }}</span>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: var(--space-2) var(--space-5);
      font-size: var(--text-small);
      min-height: 20px;
    }
    .bars {
      display: flex;
      gap: 3px;
    }
    i {
      width: 24px;
      height: 5px;
      border-radius: 3px;
      background: var(--line-2);
    }
    i.on {
      background: var(--agreed);
    }
    i.on.weak {
      background: var(--wrong);
    }
  `,
})
export class PasswordMeter {
  readonly password = input.required<string>();
  /** What others know of the person. */
  readonly names = input<readonly string[]>([]);
  private readonly asked = computed(() => ({ password: this.password(), names: this.names() }));
  /** The list of common passwords is large, and comes once somebody chooses one. */
  private readonly judged = toSignal(
    toObservable(this.asked).pipe(
      debounceTime(80),
      switchMap((asked) =>
        from(import('@coffer/contract/password')).pipe(
          map(({ passwordStrength }) => ({
            password: asked.password,
            ...passwordStrength(asked.password, asked.names),
          })),
        ),
      ),
    ),
  );
  private readonly length = computed(() => [...this.password()].length);
  private readonly long = computed(() => this.length() >= leastPassword);
  protected readonly score = computed(() => (this.length() === 0 ? 0 : (this.judged()?.score ?? 0)));
  protected readonly weak = computed(() => this.long() && (this.judged()?.common ?? false));
  protected readonly good = computed(() => this.long() && !this.weak() && this.judged() !== undefined);
  protected readonly sentence = computed(() => {
    const many = this.length();
    if (many === 0) return `${leastPassword} characters or more; four words by chance are easy to keep.`;
    if (!this.long()) return `${many} of ${leastPassword} characters.`;
    if (this.weak()) return 'Among the first that anybody would try.';
    return this.judged() ? `${many} characters, on no list of common ones, ${told[this.score()] ?? ''}.` : '';
  });
}
