import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input } from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatMenuModule } from '@angular/material/menu';
import { bondEventForm, type BondEventType, type BondForm, type TypedBond } from '../form/bond-form';
import * as choices from '../form/choices';
import { BondEventFields } from './bond-event-fields';
import { ChoiceField } from './choice-field';
import { amountHint, dayHint, rateHint } from './hints';
import { TypedField } from './typed-field';

/** The terms of a bond, in figures. */
@Component({
  selector: 'coffer-bond-fields',
  imports: [
    BondEventFields,
    ChoiceField,
    MatButtonModule,
    MatCheckboxModule,
    MatMenuModule,
    ReactiveFormsModule,
    TypedField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './bond-fields.html',
  styleUrls: ['./fields.scss', '../parts.scss'],
})
export class BondFields {
  readonly form = input.required<BondForm>();
  readonly typed = input.required<TypedBond>();
  readonly currency = input.required<string>();
  readonly fault = input.required<(key: string) => string>();
  /** The document's key of each typed event. */
  readonly eventKeys = input.required<readonly string[]>();
  /** The price that a yield makes, or the yield that a price makes. */
  readonly workedOut = input.required<(of: 'price' | 'yield') => string>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly choices = choices;
  protected readonly amountHint = amountHint;
  protected readonly dayHint = dayHint;
  protected readonly rateHint = rateHint;
  protected readonly pays = computed(() => this.typed().pays === 'coupons');
  /** Dates of odd periods and of an earlier dated date are few; they are open where they say something. */
  protected readonly datesOpen = computed(() => {
    const { dated, firstCoupon, lastCoupon } = this.typed();
    const faulty = ['matures', 'dated', 'coupon.first', 'coupon.last'].some(
      (key) => this.fault()(key) !== '',
    );
    return faulty || [dated, firstCoupon, lastCoupon].some((typed) => typed.trim() !== '');
  });

  protected add(type: BondEventType): void {
    const { events } = this.form().controls;
    events.push(bondEventForm({ type }));
    setTimeout(() => {
      const added = this.host.nativeElement.querySelectorAll('coffer-bond-event-fields');
      const last = added[added.length - 1];
      last?.scrollIntoView({ block: 'nearest' });
      last?.querySelector<HTMLElement>('input')?.focus();
    });
  }
}
