import { Pipe, type PipeTransform } from '@angular/core';
import { showDay } from '@coffer/contract';

/** A moment as its day and time here, such as `3 Nov 2026, 09:04`. */
@Pipe({ name: 'moment' })
export class MomentPipe implements PipeTransform {
  transform(moment: string | null): string {
    if (moment === null) return 'never';
    const at = new Date(moment);
    const two = (part: number): string => String(part).padStart(2, '0');
    const day = `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`;
    return `${showDay(day)}, ${two(at.getHours())}:${two(at.getMinutes())}`;
  }
}
