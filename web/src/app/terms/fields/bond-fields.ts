import { ChangeDetectionStrategy, Component, ElementRef, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { DescribedFields } from '../../fields/described-fields';
import type { Told } from '../../fields/field';
import { bondEventFields } from '../described/bond-event-fields';
import { bondRounding, bondSections } from '../described/bond-sections';
import { bondEventForm, type BondEventType, type BondForm, type TypedBond } from '../form/bond-form';
import { bondEventChoices } from '../form/choices';
import { EventFields } from './event-fields';

/** The terms of a bond, in figures. */
@Component({
  selector: 'coffer-bond-fields',
  imports: [DescribedFields, EventFields, MatButtonModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <coffer-described-fields
      [sections]="sections"
      [form]="form()"
      [typed]="typed()"
      [told]="told()"
      [fault]="fault()"
    />
    <fieldset>
      <legend>Instalments, calls, redemptions</legend>
      @for (event of form().controls.events.controls; track event; let at = $index) {
        @let said = event.getRawValue();
        <coffer-event-fields
          class="part"
          [form]="event"
          [typed]="said"
          [rows]="events[said.type].rows"
          [offered]="choices"
          [at]="at"
          [key]="eventKeys()[at] ?? ''"
          [told]="told()"
          [fault]="fault()"
          (removed)="form().controls.events.removeAt(at)"
        />
      }
      <button matButton type="button" [matMenuTriggerFor]="more">Add one</button>
      <mat-menu #more="matMenu">
        @for (type of choices; track type[0]) {
          <button mat-menu-item type="button" (click)="add(type[0])">{{ type[1] }}</button>
        }
      </mat-menu>
    </fieldset>
    <coffer-described-fields
      [sections]="rounding"
      [form]="form()"
      [typed]="typed()"
      [told]="told()"
      [fault]="fault()"
    />
  `,
  styleUrls: ['../../fields/fields.scss', '../parts.scss'],
})
export class BondFields {
  readonly form = input.required<BondForm>();
  readonly typed = input.required<TypedBond>();
  readonly told = input.required<Told>();
  readonly fault = input.required<(key: string) => string>();
  /** The document's key of each typed event. */
  readonly eventKeys = input.required<readonly string[]>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly choices = bondEventChoices;
  protected readonly events = bondEventFields;
  protected readonly sections = bondSections;
  protected readonly rounding = bondRounding;

  protected add(type: BondEventType): void {
    const { events } = this.form().controls;
    events.push(bondEventForm({ type }));
    setTimeout(() => {
      const added = this.host.nativeElement.querySelectorAll('coffer-event-fields');
      const last = added[added.length - 1];
      last?.scrollIntoView({ block: 'nearest' });
      last?.querySelector<HTMLElement>('input')?.focus();
    });
  }
}
