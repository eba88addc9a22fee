import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { map, of, switchMap, tap, type Observable } from 'rxjs';
import { changesSomething, endpoints, type ScenarioChange, type ScenarioView } from '@coffer/contract';
import { ApiClient, newKey } from '../api/api-client';
import { KeptInBrowser } from '../session/kept-in-browser';
import { SessionService } from '../session/session.service';

/** What a scenario changes of an instrument, with the instrument's name. */
export type NamedChange = ScenarioChange & { readonly name: string };

/** What was changed of a scenario, or a scenario of its own, before it is kept. */
interface Draft {
  /** Of the kept scenario, or made up. */
  readonly key: string;
  /** The revision it was made from; none where it is a new scenario. */
  readonly revision?: number | undefined;
  readonly name: string;
  readonly changes: readonly NamedChange[];
}

/** A scenario as it stands on the desk: as it is kept, or as it is changed since. */
export interface DeskScenario {
  readonly key: string;
  readonly letter: string;
  readonly name: string;
  readonly changes: readonly NamedChange[];
  /** As it is kept; none where it never was. */
  readonly kept: ScenarioView | undefined;
  /** The revision that it was made from; none where it never was kept. */
  readonly revision: number | undefined;
  /** Whether it differs from what is kept. */
  readonly draft: boolean;
  /** Instruments that were changed or withdrawn since their change was made. */
  readonly overtaken: readonly string[];
}

/** Changes as they are sent: without names, and without those that change nothing yet. */
export function sentOf(changes: readonly NamedChange[]): ScenarioChange[] {
  return changes.filter(changesSomething).map(({ name: _, ...change }) => change);
}

/** The scenarios that everybody sees, and what this person changed of them and did not keep yet. */
@Injectable({ providedIn: 'root' })
export class ScenarioDesk {
  private readonly api = inject(ApiClient);
  private readonly browser = inject(KeptInBrowser);
  private readonly session = inject(SessionService);
  private readonly kept = signal<readonly ScenarioView[]>([]);
  private readonly drafts = signal<readonly Draft[]>([]);
  /** The scenario that is looked at; as it is where there is none. */
  readonly chosenKey = signal<string | undefined>(undefined);

  readonly scenarios = computed((): readonly DeskScenario[] => {
    const [kept, drafts] = [this.kept(), this.drafts()];
    const all = [
      ...kept.map((view) =>
        deskOf(
          view,
          drafts.find(({ key }) => key === view.id),
        ),
      ),
      ...drafts
        .filter(({ key }) => !kept.some(({ id }) => id === key))
        .map((draft) => deskOf(undefined, draft)),
    ];
    return all.map((scenario, at) => ({ ...scenario, letter: letterOf(at) }));
  });
  readonly chosen = computed(() => this.scenarios().find(({ key }) => key === this.chosenKey()));

  constructor() {
    // What was not kept waits in the browser of whoever tried it.
    effect(() => {
      const person = this.session.person();
      untracked(() => {
        const restored = person && this.browser.restore('scenarios', 'drafts', (was) => was as Draft[]);
        this.drafts.set(restored ?? []);
        this.chosenKey.set(undefined);
      });
    });
  }

  load(): Observable<readonly ScenarioView[]> {
    return this.api.call(endpoints.scenarios).pipe(
      map(({ scenarios }) => scenarios),
      tap((scenarios) => this.kept.set(scenarios)),
    );
  }

  /** A scenario of its own, not kept yet; its key. */
  start(changes: readonly NamedChange[], name = this.freeName()): string {
    const key = `new-${newKey()}`;
    this.put({ key, name, changes });
    return key;
  }

  /** Changes a scenario, without keeping it. A new one that changes nothing any more is gone. */
  change(key: string, to: { readonly name?: string; readonly changes?: readonly NamedChange[] }): void {
    const was = this.scenarios().find((each) => each.key === key);
    if (!was) return;
    const draft = { key, revision: was.revision, name: was.name, changes: was.changes, ...to };
    if (draft.changes.length === 0 && !was.kept) this.discard(key);
    else this.put(draft);
  }

  /** Sets what a scenario changes of one instrument, or gives it back where that is nothing. */
  changeInstrument(key: string, instrumentId: string, change: NamedChange | undefined): void {
    const was = this.scenarios().find((each) => each.key === key);
    if (!was) return;
    const at = was.changes.findIndex((each) => each.instrumentId === instrumentId);
    const rest = was.changes.filter((each) => each.instrumentId !== instrumentId);
    const place = at < 0 ? rest.length : at;
    this.change(key, {
      changes: change ? [...rest.slice(0, place), change, ...rest.slice(place)] : rest,
    });
  }

  /** Gives back what was changed and not kept. */
  discard(key: string): void {
    this.set(this.drafts().filter((draft) => draft.key !== key));
  }

  /** Keeps a scenario, under a name, for everybody; as it is kept. */
  keep(key: string, name: string): Observable<ScenarioView> {
    const scenario = this.scenarios().find((each) => each.key === key);
    if (!scenario) throw new Error('There is no such scenario on the desk.');
    const body = { name, changes: sentOf(scenario.changes) };
    const { kept } = scenario;
    const call = kept
      ? this.api.call(endpoints.changeScenario, {
          params: { id: kept.id },
          // Of what was looked at as it was changed: what somebody else kept since is not written over.
          body: { revision: scenario.revision ?? kept.revision, ...body },
        })
      : this.api.call(endpoints.keepScenario, { body, key: newKey() });
    return call.pipe(
      tap((view) => {
        this.kept.update((all) => byName([...all.filter(({ id }) => id !== view.id), view]));
        this.discard(key);
        if (this.chosenKey() === key) this.chosenKey.set(view.id);
      }),
    );
  }

  /** Takes a scenario away, kept or not. */
  drop(key: string): Observable<unknown> {
    const kept = this.kept().find(({ id }) => id === key);
    const gone: Observable<unknown> = kept
      ? this.api.call(endpoints.dropScenario, {
          params: { id: key },
          query: { revision: String(kept.revision) },
        })
      : of(undefined);
    return gone.pipe(tap(() => this.forget(key)));
  }

  /** Makes a scenario the terms, keeping it first where it is not; how many instruments it changed. */
  adopt(key: string, reason: string): Observable<number> {
    const scenario = this.scenarios().find((each) => each.key === key);
    if (!scenario) throw new Error('There is no such scenario on the desk.');
    const { kept, draft, name } = scenario;
    const first = kept && !draft ? of(kept) : this.keep(key, name);
    return first.pipe(
      switchMap(({ id, revision }) =>
        this.api
          .call(endpoints.adoptScenario, { params: { id }, body: { revision, reason }, key: newKey() })
          .pipe(
            tap(() => this.forget(id)),
            map(({ saved }) => saved.length),
          ),
      ),
    );
  }

  private forget(key: string): void {
    this.kept.update((all) => all.filter(({ id }) => id !== key));
    this.discard(key);
    if (this.chosenKey() === key) this.chosenKey.set(undefined);
  }

  private put(draft: Draft): void {
    const at = this.drafts().findIndex(({ key }) => key === draft.key);
    this.set(
      at < 0 ? [...this.drafts(), draft] : this.drafts().map((was, index) => (index === at ? draft : was)),
    );
  }

  private set(drafts: readonly Draft[]): void {
    this.drafts.set(drafts);
    this.browser.keep('scenarios', 'drafts', drafts);
  }

  private freeName(): string {
    const taken = new Set(this.scenarios().map(({ name }) => name));
    for (let number = 1; ; number += 1) if (!taken.has(`Scenario ${number}`)) return `Scenario ${number}`;
  }
}

const deskOf = (
  kept: ScenarioView | undefined,
  draft: Draft | undefined,
): Omit<DeskScenario, 'letter'> & { letter: '' } => {
  const changes = draft?.changes ?? kept?.changes ?? [];
  return {
    key: kept?.id ?? draft?.key ?? '',
    letter: '',
    name: draft?.name ?? kept?.name ?? '',
    changes: changes.map(({ instrumentId, version, change, terms, events, name }) => ({
      instrumentId,
      version,
      name,
      ...(change && { change }),
      ...(terms && { terms }),
      ...(events && { events }),
    })),
    kept,
    revision: draft?.revision ?? kept?.revision,
    draft: draft !== undefined,
    overtaken: (kept?.changes ?? [])
      .filter(({ instrumentId, newest, withdrawn }) => {
        const now = changes.find((each) => each.instrumentId === instrumentId);
        return now !== undefined && (withdrawn || now.version !== newest);
      })
      .map(({ name }) => name),
  };
};

const letterOf = (at: number): string => (at < 26 ? String.fromCharCode(65 + at) : String(at + 1));

const byName = (scenarios: readonly ScenarioView[]): ScenarioView[] =>
  [...scenarios].sort((one, other) => one.name.toLowerCase().localeCompare(other.name.toLowerCase()));
