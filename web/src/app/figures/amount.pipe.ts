import type { MinorUnits } from '@coffer/core';
import { inject, Pipe, type PipeTransform } from '@angular/core';
import { showAmount, showText, showDay } from '@coffer/contract';
import { CompanyService } from '../company/company.service';

/** An amount in minor units of the company's currency. */
@Pipe({ name: 'amount' })
export class AmountPipe implements PipeTransform {
  private readonly company = inject(CompanyService);

  transform(minor: MinorUnits): string {
    return showAmount(minor, this.company.digits());
  }
}

/** A date as people read it. */
@Pipe({ name: 'day' })
export class DayPipe implements PipeTransform {
  transform(day: string | number): string {
    return showDay(day);
  }
}

/** A text, such as the memo of an entry, with its dates as people read them. */
@Pipe({ name: 'withDays' })
export class WithDaysPipe implements PipeTransform {
  transform(text: string): string {
    return showText(text);
  }
}
