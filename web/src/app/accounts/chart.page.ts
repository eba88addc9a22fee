import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { type AccountRole, accountRoles, type MinorUnits, parseAmount } from '@coffer/core';
import { accountName, showAmount, type ChartView, showDecimal } from '@coffer/contract';
import { ApiRefusal } from '../api/api-client';
import { loaded } from '../api/loaded';
import { messageOf } from '../api/message-of';
import { CompanyService } from '../company/company.service';
import { DayPipe } from '../figures/amount.pipe';
import { SessionService } from '../session/session.service';
import { SheetReader } from '../sheets/sheet-reader.service';
import { rowsOfText } from '../sheets/table-of-file';
import { readNumber } from '../typed/typed-number';
import { AccountsService } from './accounts.service';
import { chartOfTable, suggestedAccounts, type ChartLine } from './chart-lines';

/** The chart of accounts: what stands for each role, the accounts themselves, and what was brought in. */
@Component({
  selector: 'coffer-chart',
  imports: [DayPipe, MatButtonModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './chart.page.html',
  styleUrl: './chart.page.scss',
})
export class ChartPage {
  private readonly service = inject(AccountsService);
  private readonly sheets = inject(SheetReader);
  protected readonly company = inject(CompanyService);
  protected readonly session = inject(SessionService);
  protected readonly loaded = loaded(
    computed(() => this.session.company()?.id),
    () => this.service.chart(),
  );
  protected readonly view = this.loaded.value;
  protected readonly roles = accountRoles.map((role) => ({ role, name: accountName(role) }));
  /** The chart as it is on the page, kept or not. */
  protected readonly lines = signal<readonly ChartLine[]>([]);
  protected readonly chosen = signal<ReadonlyMap<AccountRole, string>>(new Map());
  protected readonly faults = signal<readonly string[]>([]);
  protected readonly failed = signal('');
  protected readonly said = signal('');
  protected readonly busy = signal(false);
  protected readonly pasting = signal(false);
  protected readonly may = computed(() => this.session.mayPrepare() || this.session.mayAdminister());
  protected readonly changed = computed(() => {
    const view = this.view();
    return view !== undefined && JSON.stringify(asIs(view)) !== JSON.stringify(this.body(view.revision));
  });
  protected readonly without = computed(() => accountRoles.filter((role) => !this.chosen().has(role)).length);
  protected readonly brought = computed(() => {
    const names = new Map(this.lines().map(({ code, name }) => [code, name]));
    return (this.view()?.broughtIn ?? []).map((each) => ({
      ...each,
      name: names.get(each.code) ?? '',
      difference: each.ledger === null ? undefined : each.brought - each.ledger,
    }));
  });
  /** The account of which it is shown what each instrument brings in. */
  protected readonly opened = signal('');
  private readonly ofOpened = loaded(
    computed(() => this.opened() || undefined),
    (code) => this.service.broughtInto(code),
  );
  protected readonly bringers = computed(() => (this.ofOpened.behind() ? [] : (this.ofOpened.value() ?? [])));
  protected readonly firstOpen = computed(
    () => this.company.company()?.periods.every(({ state }) => state !== 'closed') ?? false,
  );

  constructor() {
    effect(() => {
      const view = this.view();
      // The same chart come anew, with other balances, leaves what is typed as it is.
      if (view && view.revision !== this.taken) untracked(() => this.take(view));
    });
  }

  /** The revision that stands on the page. */
  private taken = 0;

  private take({ revision, accounts, defaults }: ChartView): void {
    this.taken = revision;
    this.lines.set(accounts.map(({ code, name }) => ({ code, name })));
    this.chosen.set(new Map(defaults.map(({ role, code }) => [role, code])));
    this.faults.set([]);
  }

  private body(revision: number): ReturnType<typeof asIs> {
    return {
      revision,
      accounts: this.lines().filter(({ code, name }) => code !== '' || name !== ''),
      defaults: accountRoles.flatMap((role) => {
        const code = this.chosen().get(role);
        return code === undefined ? [] : [{ role, code }];
      }),
    };
  }

  protected choose(role: AccountRole, code: string): void {
    this.chosen.update((before) => {
      const next = new Map(before);
      if (code === '') next.delete(role);
      else next.set(role, code);
      return next;
    });
  }

  protected type(at: number, key: keyof ChartLine, text: string): void {
    const before = this.lines()[at];
    this.lines.update((lines) =>
      lines.map((line, each) => (each === at ? { ...line, [key]: text.trim() } : line)),
    );
    // A role follows its account where the code is put right.
    if (before && key === 'code') {
      for (const [role, code] of this.chosen()) if (code === before.code) this.choose(role, text.trim());
    }
  }

  protected add(): void {
    this.lines.update((lines) => [...lines, { code: '', name: '' }]);
    setTimeout(() => document.querySelector<HTMLElement>('tr:last-child input[data-code]')?.focus());
  }

  protected remove(at: number): void {
    const gone = this.lines()[at];
    this.lines.update((lines) => lines.filter((_, each) => each !== at));
    for (const [role, code] of this.chosen()) if (code === gone?.code) this.choose(role, '');
  }

  protected bring(input: HTMLInputElement): void {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    this.failed.set('');
    this.sheets.read(file).subscribe({
      next: (tables) => this.merge(tables.find(({ rows }) => rows.length > 0)?.rows ?? []),
      error: (error: unknown) => this.failed.set(messageOf(error)),
    });
  }

  protected paste(text: string): void {
    this.pasting.set(false);
    this.merge(rowsOfText(text));
  }

  /** Takes accounts over into the page: by code, what was there stays; roles that have none get what a name suggests. */
  private merge(rows: readonly (readonly string[])[]): void {
    const { lines, faults } = chartOfTable(rows);
    this.faults.set(faults);
    this.said.set('');
    if (lines.length === 0) {
      this.failed.set('No account was found: a code and a name beside it, in each line.');
      return;
    }
    const byCode = new Map(this.lines().map((line) => [line.code, line]));
    for (const line of lines) byCode.set(line.code, line);
    this.lines.set([...byCode.values()].sort((one, other) => one.code.localeCompare(other.code)));
    this.chosen.set(suggestedAccounts(this.lines(), this.chosen()));
    this.said.set(
      `${lines.length} ${lines.length === 1 ? 'account' : 'accounts'} read. Look through what stands for each role, then keep the chart.`,
    );
  }

  protected undo(): void {
    const view = this.view();
    if (view) this.take(view);
    this.said.set('');
    this.failed.set('');
  }

  protected keep(): void {
    const view = this.view();
    if (!view || this.busy()) return;
    this.busy.set(true);
    this.failed.set('');
    this.said.set('');
    this.service.keep(this.body(view.revision)).subscribe({
      next: () => {
        this.busy.set(false);
        this.said.set('The chart is kept.');
        this.loaded.again();
        this.company.load().subscribe();
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.failed.set(messageOf(error));
        const faults = error instanceof ApiRefusal ? (error.refusal.faults ?? []) : [];
        this.faults.set(faults.map(({ message }) => message));
      },
    });
  }

  /** What the ledger held, as typed: debits plain, credits with a minus or `Cr`. */
  protected ledger(code: string, text: string): void {
    const typed = text
      .trim()
      .replaceAll('\u2212', '-')
      .replace(/^\((.*)\)$/, '-$1');
    const credit = /^-|cr$/i.test(typed);
    const plain = readNumber(typed.replace(/^-/, '').replace(/\s*cr$/i, ''));
    const balance = plain === undefined ? undefined : parseAmount(plain, this.company.digits());
    if (typed !== '' && balance === undefined) {
      this.failed.set(
        `“${text.trim()}” is no amount; type one such as ${showDecimal('640000.00')} or ${showDecimal('-640000.00')}.`,
      );
      return;
    }
    this.failed.set('');
    const signed = balance === undefined ? null : credit ? -balance : balance;
    this.service.keepLedger([{ code, balance: signed }]).subscribe({
      next: () => this.loaded.again(),
      error: (error: unknown) => this.failed.set(messageOf(error)),
    });
  }

  protected shown(minor: MinorUnits | null): string {
    if (minor === null) return '';
    return showAmount(minor, this.company.digits());
  }
}

/** The chart as it is kept, in the form that it is sent in. */
function asIs({ revision, accounts, defaults }: ChartView): {
  revision: number;
  accounts: { code: string; name: string }[];
  defaults: { role: AccountRole; code: string }[];
} {
  return {
    revision,
    accounts: accounts.map(({ code, name }) => ({ code, name })),
    defaults: defaults.map(({ role, code }) => ({ role, code })),
  };
}
