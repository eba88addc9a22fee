import type { Fault } from '@coffer/contract';
import type { LoanLife, PreviewAnswer } from './schedule-preview';

/** Faults of a document's phases as faults of the typed stretches that made them. */
export function faultsByStretch(faults: readonly Fault[], stretchOf: readonly number[]): Fault[] {
  const ofStretch = (text: string): string =>
    text.replaceAll(
      /\bpayments\.phases\.(\d+)/g,
      (_, phase: string) => `payments.phases.${stretchOf[Number(phase)] ?? phase}`,
    );
  return faults.map(({ key, message }) => ({ key: ofStretch(key), message: ofStretch(message) }));
}

/** What was answered about a document, by the typed stretches instead of the phases that they made. */
export function byStretch(answer: PreviewAnswer, stretchOf: readonly number[]): PreviewAnswer {
  if (!answer.ok) return { ...answer, faults: faultsByStretch(answer.faults, stretchOf) };
  return answer.life ? { ...answer, life: lifeByStretch(answer.life, stretchOf) } : answer;
}

function lifeByStretch(life: LoanLife, stretchOf: readonly number[]): LoanLife {
  const spans: { from: number; to: number; payments: number }[] = [];
  const payments: (string | null)[] = [];
  for (const [phase, { from, to, payments: made }] of life.spans.entries()) {
    const stretch = stretchOf[phase] ?? phase;
    const span = spans[stretch];
    spans[stretch] = span
      ? { from: span.from, to, payments: span.payments + made }
      : { from, to, payments: made };
    payments[stretch] ??= life.payments[phase] ?? null;
  }
  return { ...life, spans, payments };
}
