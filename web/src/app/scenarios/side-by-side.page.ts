import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { RouterLink } from '@angular/router';
import { parseDay } from '@coffer/core';
import { endpoints, showDay } from '@coffer/contract';
import { ApiClient } from '../api/api-client';
import { loaded } from '../api/loaded';
import { messageOf } from '../api/message-of';
import { Chart } from '../charts/chart';
import { AsOfService } from '../company/as-of.service';
import { CompanyService } from '../company/company.service';
import { UnworkableNotice } from '../figures/unworkable-notice';
import { SessionService } from '../session/session.service';
import { curvesChart } from '../try/curves-chart';
import { AdoptDialog } from './adopt.dialog';
import { ScenarioDesk, sentOf, type DeskScenario } from './scenario-desk';
import { wordsOf } from './scenario-words';
import { comparedInAll, comparedByInstrument } from './side-by-side';

/** Scenarios that stand beside each other at first. */
const mostAtFirst = 4;

/** All instruments as they are and under some scenarios: what they cost, what they ask for, when they end. */
@Component({
  selector: 'coffer-side-by-side',
  imports: [Chart, MatButtonModule, RouterLink, UnworkableNotice],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './side-by-side.page.html',
  styleUrl: './side-by-side.page.scss',
  host: { '[class.behind]': 'loaded.behind()' },
})
export class SideBySidePage {
  private readonly api = inject(ApiClient);
  private readonly desk = inject(ScenarioDesk);
  private readonly dialog = inject(MatDialog);
  private readonly company = inject(CompanyService);
  protected readonly asOf = inject(AsOfService);
  protected readonly session = inject(SessionService);
  /** Scenarios chosen or left out by hand. */
  private readonly picked = signal<ReadonlyMap<string, boolean>>(new Map());
  protected readonly done = signal('');
  protected readonly failed = signal('');
  protected readonly choices = computed(() => {
    const picked = this.picked();
    const able = this.desk.scenarios().filter(({ changes }) => sentOf(changes).length > 0);
    return able.map((scenario, at) => ({ scenario, shown: picked.get(scenario.key) ?? at < mostAtFirst }));
  });
  protected readonly scenarios = computed(() =>
    this.choices().flatMap(({ scenario, shown }) => (shown ? [scenario] : [])),
  );
  private readonly query = computed(() => ({
    on: this.asOf.date(),
    scenarios: this.scenarios().map(({ changes }) => sentOf(changes)),
  }));
  protected readonly loaded = loaded(this.query, (body) => this.api.call(endpoints.sideBySide, { body }));
  protected readonly view = this.loaded.value;
  protected readonly lines = computed(() => {
    const view = this.view();
    return view ? comparedInAll(view, this.company.digits()) : [];
  });
  protected readonly rows = computed(() => {
    const view = this.view();
    return view ? comparedByInstrument(view, this.company.digits()) : [];
  });
  /** What each scenario changes of an instrument, in words. */
  protected readonly words = computed(() => {
    const told = new Map<string, { letter: string; text: string }[]>();
    for (const { letter, changes } of this.scenarios())
      for (const change of changes) {
        const of = told.get(change.instrumentId) ?? [];
        told.set(change.instrumentId, [...of, { letter, text: wordsOf(change) }]);
      }
    return told;
  });
  protected readonly faulty = computed(() =>
    (this.view()?.columns ?? []).flatMap(({ faulty }, at) =>
      faulty.map(
        ({ name, faults }) =>
          `${this.scenarios()[at - 1]?.letter ?? ''}: ${name} stands as it is, for ${faults.map(({ message }) => message).join(' ')}`,
      ),
    ),
  );
  protected readonly left = computed(() => {
    const left = this.view()?.columns[0]?.all.left ?? 0;
    return left > 0;
  });
  protected readonly chart = computed(() => {
    const view = this.view();
    const days = (view?.days ?? []).map((day) => parseDay(day) ?? 0);
    const curves = (view?.columns ?? []).map(({ owed }, at) => ({
      letter: this.scenarios()[at - 1]?.letter ?? '',
      name: at === 0 ? 'as it is' : (this.scenarios()[at - 1]?.name ?? ''),
      points: owed.map((balance, index) => ({ on: days[index] ?? 0, balance })),
      chosen: false,
    }));
    return curvesChart(curves, parseDay(this.asOf.date()) ?? 0, this.company.digits());
  });
  protected readonly title = computed(() => {
    const view = this.view();
    const count = view ? view.rows.length + view.others : 0;
    return `after ${showDay(this.asOf.date())}, to the last payment · ${count} instruments`;
  });

  constructor() {
    this.desk.load().subscribe({ error: (error: unknown) => this.failed.set(messageOf(error)) });
  }

  protected toggle(key: string, shown: boolean): void {
    this.picked.update((picked) => new Map(picked).set(key, shown));
  }

  protected adopt(scenario: DeskScenario): void {
    this.dialog
      .open<AdoptDialog, DeskScenario, string>(AdoptDialog, { data: scenario, width: '560px' })
      .afterClosed()
      .subscribe((said) => {
        if (said === undefined) return;
        this.done.set(said);
        this.loaded.again();
      });
  }
}
