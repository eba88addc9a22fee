import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { loanSections } from '../terms/described/loan-sections';
import { loanForm, type LoanForm, type TypedLoan } from '../terms/form/loan-form';
import { DescribedFields } from './described-fields';

let fixture: ComponentFixture<DescribedFields<TypedLoan>>;
let form: LoanForm;
let faults: Record<string, string>;

async function draw(): Promise<HTMLElement> {
  const { componentRef } = fixture;
  componentRef.setInput('typed', form.getRawValue());
  componentRef.setInput('fault', (key: string) => faults[key] ?? '');
  await fixture.whenStable();
  return fixture.nativeElement;
}
beforeEach(() => {
  form = loanForm();
  faults = {};
  fixture = TestBed.createComponent<DescribedFields<TypedLoan>>(DescribedFields);
  fixture.componentRef.setInput('sections', loanSections);
  fixture.componentRef.setInput('form', form);
  fixture.componentRef.setInput('told', { currency: 'CHF', worked: () => '' });
});

const labels = (page: HTMLElement): string[] =>
  [...page.querySelectorAll('mat-label')].map((label) => label.textContent?.trim() ?? '');
const fieldOf = (page: HTMLElement, label: string): Element | undefined =>
  [...page.querySelectorAll('mat-form-field')].find((each) =>
    each.querySelector('mat-label')?.textContent?.trim().startsWith(label),
  );

describe('fields as they are described', () => {
  it('asks for what the other fields make needful, and for nothing else', async () => {
    expect(labels(await draw())).toContain('Amount, CHF');
    form.patchValue({ financed: 'purchase' });
    const asked = labels(await draw());
    expect(asked).toEqual(expect.arrayContaining(['Price, CHF', 'Down payment, CHF']));
    expect(asked).not.toContain('Amount, CHF');
  });

  it('says beneath a field what was understood, or what is wrong with it', async () => {
    form.patchValue({ amount: '1.2m', start: '31 jan 26', first: '28 feb 26', rate: '6 1/8' });
    let page = await draw();
    expect(fieldOf(page, 'Amount')?.querySelector('mat-hint')?.textContent).toBe('1,200,000');
    expect(fieldOf(page, 'Annual rate')?.querySelector('mat-hint')?.textContent).toBe('6.125% a year');
    // The 28th of February may be a month end or a 28th: it is said which.
    expect(fieldOf(page, 'First payment')?.querySelector('mat-hint')?.textContent).toBe(
      '28 Feb 2026, then on the 28th',
    );
    faults = { amount: 'Too much.' };
    page = await draw();
    const [hint, input] = [
      fieldOf(page, 'Amount')?.querySelector('mat-hint'),
      fieldOf(page, 'Amount')?.querySelector('input'),
    ];
    expect([hint?.textContent, hint?.getAttribute('role'), input?.getAttribute('aria-invalid')]).toEqual([
      'Too much.',
      'alert',
      'true',
    ]);
  });

  it('opens what is folded away where something in it is wrong', async () => {
    const openedIn = (page: HTMLElement): string[] =>
      [...page.querySelectorAll('details[open] summary')].map((title) => title.textContent ?? '');
    expect(openedIn(await draw())).toEqual([]);
    faults = { 'payments.last': 'No such day.' };
    expect(openedIn(await draw())).toEqual(['Dates and business days']);
    form.patchValue({ floating: true });
    expect(openedIn(await draw())).toEqual(['Rate and compounding', 'Dates and business days']);
  });

  it('leaves what is being typed where it is as other fields come and go', async () => {
    const page = await draw();
    const name = fieldOf(page, 'Annual rate')?.querySelector('input');
    form.patchValue({ financed: 'taken-on', floating: true });
    await draw();
    expect(fieldOf(page, 'Annual rate')?.querySelector('input')).toBe(name);
  });
});
