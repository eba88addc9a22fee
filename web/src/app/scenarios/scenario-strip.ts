import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatDialog } from '@angular/material/dialog';
import { RouterLink } from '@angular/router';
import { messageOf } from '../api/message-of';
import { SessionService } from '../session/session.service';
import { AdoptDialog } from './adopt.dialog';
import { NameDialog } from './name.dialog';
import { ScenarioDesk, type DeskScenario } from './scenario-desk';

/** Which scenario is looked at, and what can be done with it: keep it, give it back, make it the terms. */
@Component({
  selector: 'coffer-scenario-strip',
  imports: [MatButtonModule, MatButtonToggleModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './scenario-strip.html',
  styleUrl: './scenario-strip.scss',
})
export class ScenarioStrip {
  protected readonly desk = inject(ScenarioDesk);
  protected readonly session = inject(SessionService);
  private readonly dialog = inject(MatDialog);
  /** A scenario became the terms; what was done, in words. */
  readonly adopted = output<string>();
  protected readonly failed = signal('');
  protected readonly changes = computed(() => {
    const count = this.desk.chosen()?.changes.length ?? 0;
    if (count === 0) return 'changes nothing yet: type over a payment';
    return `changes ${count} ${count === 1 ? 'instrument' : 'instruments'}`;
  });
  protected readonly state = computed(() => {
    const chosen = this.desk.chosen();
    if (!chosen?.draft) return '';
    return chosen.kept ? 'changed since it was kept' : 'not kept';
  });

  protected choose(key: string): void {
    this.failed.set('');
    if (key === 'new') this.desk.chosenKey.set(this.desk.start([]));
    else this.desk.chosenKey.set(key === '' ? undefined : key);
  }

  protected keep(scenario: DeskScenario): void {
    this.dialog.open<NameDialog, DeskScenario>(NameDialog, { data: scenario, width: '460px' });
  }

  protected adopt(scenario: DeskScenario): void {
    this.dialog
      .open<AdoptDialog, DeskScenario, string>(AdoptDialog, { data: scenario, width: '560px' })
      .afterClosed()
      .subscribe((said) => {
        if (said !== undefined) this.adopted.emit(said);
      });
  }

  /** Takes a scenario away, or what was not kept of it. */
  protected giveBack({ key, kept, draft }: DeskScenario): void {
    this.failed.set('');
    if (kept && draft) this.desk.discard(key);
    else this.desk.drop(key).subscribe({ error: (error: unknown) => this.failed.set(messageOf(error)) });
  }

  /** Has the changes of a scenario made from the terms as they are now. */
  protected onNewest(scenario: DeskScenario): void {
    const newest = new Map(scenario.kept?.changes.map((change) => [change.instrumentId, change]));
    this.desk.change(scenario.key, {
      changes: scenario.changes.flatMap((change) => {
        const now = newest.get(change.instrumentId);
        if (now?.withdrawn) return [];
        return [{ ...change, version: now?.newest ?? change.version }];
      }),
    });
  }
}
