import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import { indexKey, showDay, type KeptIndex, showRate, showText, showNumber } from '@coffer/contract';
import { loaded } from '../api/loaded';
import { messageOf } from '../api/message-of';
import { Chart } from '../charts/chart';
import { TypedField } from '../fields/typed-field';
import { DayPipe } from '../figures/amount.pipe';
import { KeptInBrowser } from '../session/kept-in-browser';
import { SessionService } from '../session/session.service';
import { SheetReader } from '../sheets/sheet-reader.service';
import { rowsOfText } from '../sheets/table-of-file';
import { withFixings, withoutDay, type Draft, type Drafts } from './drafts';
import { fixingsOfTable, readOn, readRate } from './fixings-of-table';
import { FollowPanel } from './follow-panel';
import { rateChart } from './rate-chart';
import { RatesService } from './rates.service';

/** An index in the list: kept, only followed, or only drafted. */
interface ListedIndex {
  readonly key: string;
  readonly name: string;
  readonly followers: number;
  readonly kept?: KeptIndex;
  readonly drafted: number;
}

/** How a fixing came, in words. */
const cameBy: Readonly<Record<Draft['source'], string>> = {
  typed: 'typed',
  sheet: 'read from a table',
  service: 'from the rate service',
};

/** Reference rates: the indexes of the company, their fixings, and what new ones do before they reach the instruments. */
@Component({
  selector: 'coffer-rates',
  imports: [Chart, DayPipe, FollowPanel, MatButtonModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './rates.page.html',
  styleUrl: './rates.page.scss',
})
export class RatesPage {
  /** The index that is looked at, by its name. */
  readonly index = input<string>();
  private readonly rates = inject(RatesService);
  private readonly sheets = inject(SheetReader);
  private readonly router = inject(Router);
  private readonly browser = inject(KeptInBrowser);
  protected readonly session = inject(SessionService);
  protected readonly cameBy = cameBy;
  protected readonly showRate = showRate;
  protected readonly showText = showText;
  protected readonly loaded = loaded(
    computed(() => this.session.company()?.id),
    () => this.rates.rates(),
  );
  /** Another index, which has no fixing yet: it is there to be typed into, and kept with its first. */
  private readonly another = signal('');
  private readonly drafts = signal<Drafts>(new Map());
  protected readonly failed = signal('');
  protected readonly faults = signal<readonly string[]>([]);
  protected readonly said = signal('');
  protected readonly busy = signal(false);
  protected readonly open = signal<'paste' | 'another' | ''>('');
  protected readonly name = new FormControl('', { nonNullable: true });
  protected readonly on = new FormControl('', { nonNullable: true });
  protected readonly rate = new FormControl('', { nonNullable: true });
  protected readonly asked = signal(false);

  protected readonly listed = computed((): ListedIndex[] => {
    const { indexes = [], unkept = [] } = this.loaded.value() ?? {};
    const found = new Map<string, Omit<ListedIndex, 'drafted'>>();
    const put = (name: string, followers: number, kept?: KeptIndex): void => {
      const key = indexKey(name);
      if (!found.has(key)) found.set(key, { key, name, followers, ...(kept && { kept }) });
    };
    for (const each of indexes) put(each.name, each.followers, each);
    for (const { name, followers } of unkept) put(name, followers);
    for (const { index } of this.drafts().values()) put(index, 0);
    if (this.another() !== '') put(this.another(), 0);
    const all = [...found.values()].sort(
      (one, other) =>
        Number(other.followers > 0) - Number(one.followers > 0) || one.key.localeCompare(other.key),
    );
    return all.map((each) => ({ ...each, drafted: this.drafts().get(each.key)?.fixings.length ?? 0 }));
  });
  protected readonly chosen = computed(() => {
    const key = indexKey(this.index() ?? '');
    const all = this.listed();
    return all.find((each) => each.key === key) ?? all[0];
  });
  /** The index whose kept fixings are looked for in the instruments that follow it. */
  private readonly catchingUp = signal('');
  /** What is to be kept of the index; nothing new where instruments are only to take what is kept. */
  protected readonly draft = computed((): Draft | undefined => {
    const { key = '', name = '' } = this.chosen() ?? {};
    const catchesUp = key !== '' && this.catchingUp() === key;
    return this.drafts().get(key) ?? (catchesUp ? { index: name, source: 'typed', fixings: [] } : undefined);
  });
  protected readonly following = computed(() => {
    const { indexes = [], unkept = [] } = this.loaded.value() ?? {};
    return [...indexes, ...unkept].reduce((sum, { followers }) => sum + followers, 0);
  });
  /** The fixings of the index, newest first, each with what it moved by. */
  protected readonly fixings = computed(() => {
    const all = this.chosen()?.kept?.fixings ?? [];
    return all.map((fixing, at) => ({ ...fixing, moved: movedBy(fixing.rate, all[at + 1]?.rate) }));
  });
  protected readonly chart = computed(() =>
    rateChart(
      this.fixings(),
      (this.draft()?.fixings ?? []).flatMap(({ on, rate }) => (rate === null ? [] : [{ on, rate }])),
    ),
  );
  protected readonly words = computed(() => {
    const told = this.fixings().map(({ on, rate }) => `${showDay(on)} ${showRate(rate)}`);
    return `${this.chosen()?.name ?? ''} as published: ${told.join('; ')}`;
  });

  constructor() {
    effect(() => {
      const drafts = this.browser.restore(
        'rates',
        this.keptAs(),
        (value) => new Map(value as [string, Draft][]),
      );
      untracked(() => this.drafts.set(drafts ?? new Map<string, Draft>()));
    });
  }

  /** What is drafted stays in this browser, so that leaving the page loses nothing. */
  private put(change: (drafts: Drafts) => Drafts): void {
    this.drafts.update(change);
    if (this.drafts().size > 0) this.browser.keep('rates', this.keptAs(), [...this.drafts()]);
    else this.browser.forget('rates', this.keptAs());
  }

  private readonly keptAs = computed(() => String(this.session.company()?.id ?? ''));

  protected choose(name: string): void {
    this.said.set('');
    this.asked.set(false);
    void this.router.navigate(['/rates'], { queryParams: { index: name } });
  }

  private add(draft: Draft): void {
    const kept = this.listed().find(({ key }) => key === indexKey(draft.index))?.kept?.fixings ?? [];
    this.put((drafts) => withFixings(drafts, draft, kept));
  }

  protected dayFault(): string {
    return this.asked() && readOn(this.on.value) === undefined ? 'A date, such as 15 oct 26.' : '';
  }

  protected rateFault(): string {
    return this.asked() && readRate(this.rate.value) === undefined
      ? `A rate, such as ${showRate('2.495')}.`
      : '';
  }

  /** Drafts the fixing that is typed. */
  protected type(): void {
    this.asked.set(true);
    this.said.set('');
    const [on, rate, index] = [readOn(this.on.value), readRate(this.rate.value), this.chosen()?.name];
    if (on === undefined || rate === undefined || index === undefined) return;
    this.add({ index, source: 'typed', fixings: [{ on, rate }] });
    if (!this.draft()?.fixings.some((each) => each.on === on)) {
      this.said.set(`${showDay(on)} stands at ${showRate(rate)} already.`);
    }
    this.on.reset();
    this.rate.reset();
    this.asked.set(false);
  }

  protected takeBack(on: string): void {
    const index = this.chosen()?.name;
    if (index !== undefined) this.add({ index, source: 'typed', fixings: [{ on, rate: null }] });
  }

  protected begin(): void {
    const name = this.name.value.trim();
    if (name === '') return;
    this.open.set('');
    this.name.reset();
    this.another.set(name);
    this.choose(name);
  }

  protected paste(text: string): void {
    this.open.set('');
    this.take(rowsOfText(text));
  }

  protected bring(input: HTMLInputElement): void {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    this.sheets.read(file).subscribe({
      next: (tables) => this.take(tables.find(({ rows }) => rows.length > 0)?.rows ?? []),
      error: (error: unknown) => this.failed.set(messageOf(error)),
    });
  }

  private take(rows: readonly (readonly string[])[]): void {
    const { indexes, faults, notes } = fixingsOfTable(rows);
    this.failed.set('');
    this.said.set(notes.join(' '));
    this.faults.set(faults);
    const many = indexes.reduce((sum, { fixings }) => sum + fixings.length, 0);
    const chosen = this.chosen()?.name;
    if (many === 0) {
      this.failed.set('No fixing was found: a date and a rate beside it, in each line.');
    } else if (chosen === undefined && indexes.some(({ name }) => name === '')) {
      this.failed.set('Say which index these are of: begin one first, or put its name before each date.');
    } else {
      for (const { name, fixings } of indexes)
        this.add({ index: name || (chosen ?? ''), source: 'sheet', fixings });
      const first = indexes[0]?.name;
      if (first) this.choose(first);
      this.said.set(
        [`${many} read.`, ...notes, this.draft() ? '' : 'All of them are kept already.'].join(' '),
      );
    }
  }

  /** What the rate service has that is not kept, as drafts. */
  protected fetch(): void {
    this.busy.set(true);
    this.failed.set('');
    this.faults.set([]);
    this.rates.fetched().subscribe({
      next: (indexes) => {
        this.busy.set(false);
        for (const { name, fixings } of indexes) this.add({ index: name, source: 'service', fixings });
        this.said.set(
          indexes.length === 0
            ? 'The rate service has nothing that is not kept.'
            : `The rate service has fixings that are not kept of ${indexes.map(({ name }) => name).join(', ')}.`,
        );
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.failed.set(messageOf(error));
      },
    });
  }

  protected catchUp(): void {
    this.said.set('');
    this.catchingUp.set(this.chosen()?.key ?? '');
  }

  protected dropDay(on: string): void {
    const key = this.chosen()?.key ?? '';
    this.put((drafts) => withoutDay(drafts, key, on));
  }

  protected dropAll(): void {
    this.catchingUp.set('');
    const key = this.chosen()?.key ?? '';
    this.put((drafts) => new Map([...drafts].filter(([each]) => each !== key)));
  }

  protected onKept(said: string): void {
    this.dropAll();
    this.faults.set([]);
    this.said.set(said);
    this.loaded.again();
  }
}

/** By how much a rate moved from the one before it, in hundredths of a percent; empty where there is none. */
function movedBy(rate: string, before: string | undefined): string {
  if (before === undefined) return '';
  const points = Math.round((Number.parseFloat(rate) - Number.parseFloat(before)) * 1e6) / 1e4;
  if (points === 0) return 'unchanged';
  return `${points > 0 ? '+' : '−'}${showNumber(Math.abs(points))} bp`;
}
