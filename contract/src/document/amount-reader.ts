import { parseAmount } from '@coffer/core';
import type { Fault } from '../faults/fault.ts';

const mostUnits = 1e12;

/** Reads amounts in one currency and collects what is wrong, so that all faults are told at once. */
export class AmountReader {
  readonly faults: Fault[] = [];

  /**
   * @param currency its code, for messages
   * @param digits decimals of its minor unit
   */
  constructor(
    readonly currency: string,
    readonly digits: number,
  ) {}

  /** Notes a fault. */
  fault(key: string, message: string): void {
    if (!this.faults.some((fault) => fault.key === key)) this.faults.push({ key, message });
  }

  /** An amount in minor units, zero allowed. */
  amount(key: string, text: string): number {
    const minor = parseAmount(text, this.digits);
    if (minor === undefined) {
      this.fault(key, `Found "${text}"; ${this.currency} has ${this.digits} decimals.`);
      return 1;
    }
    if (minor >= mostUnits * 10 ** this.digits) {
      this.fault(key, `Found "${text}"; an amount must be below 1,000,000,000,000.`);
      return 1;
    }
    return minor;
  }

  /** An amount in minor units, more than zero. */
  positive(key: string, text: string): number {
    const minor = this.amount(key, text);
    if (minor === 0) this.fault(key, 'This must be more than zero.');
    return Math.max(1, minor);
  }
}
