import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChildren,
} from '@angular/core';
import { showDay } from '@coffer/contract';
import { placeOf, type TimelineItem, type TimelineModel } from './timeline-model';

/** What is done to something on the timeline. */
export type TimelineAct =
  | { readonly act: 'choose' | 'remove'; readonly item: TimelineItem }
  /** Payments more or fewer in a stretch. */
  | { readonly act: 'lengthen'; readonly item: TimelineItem; readonly by: number }
  /** A stretch's end, or an event, is put on a day. */
  | { readonly act: 'place'; readonly item: TimelineItem; readonly day: number; readonly dragged?: boolean }
  /** A stretch one place earlier or later. */
  | { readonly act: 'reorder'; readonly item: TimelineItem; readonly by: number }
  /** An event some days on. */
  | { readonly act: 'shift'; readonly item: TimelineItem; readonly by: number }
  /** An event to the due date before or after. */
  | { readonly act: 'to-due'; readonly item: TimelineItem; readonly by: number };

/** The life of a loan as a line: stretches end to end, events above, to be chosen, moved and drawn longer. */
@Component({
  selector: 'coffer-timeline',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './timeline.html',
  styleUrl: './timeline.scss',
})
export class Timeline {
  readonly model = input.required<TimelineModel>();
  readonly on = input<number>();
  readonly chosen = input('');
  /** Nothing can be changed, only looked at. */
  readonly fixed = input(false);
  readonly acted = output<TimelineAct>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly stretches = viewChildren<ElementRef<HTMLElement>>('stretch');
  private readonly held = signal<{ item: TimelineItem; model: TimelineModel } | undefined>(undefined);
  /** Percent of the whole below which a stretch is named shortly. */
  protected readonly shortBelow = 14;
  /** While something is dragged the scale stays as it was when it was taken hold of. */
  protected readonly shown = computed((): TimelineModel => {
    const held = this.held();
    return held
      ? { ...this.model(), from: held.model.from, to: held.model.to, ticks: held.model.ticks }
      : this.model();
  });
  protected readonly asOf = computed(() => {
    const on = this.on();
    const { from, to } = this.shown();
    return on === undefined || on < from || on > to ? undefined : placeOf({ from, to }, on);
  });

  protected idOf({ kind, at }: TimelineItem): string {
    return `${kind}-${at}`;
  }

  protected left(item: TimelineItem): number {
    return placeOf(this.shown(), item.from);
  }

  protected width(item: TimelineItem): number {
    return placeOf(this.shown(), item.to) - this.left(item);
  }

  protected tickPlace(day: number): number {
    return placeOf(this.shown(), day);
  }

  protected spoken(item: TimelineItem): string {
    if (item.kind === 'event') return `${item.title}, ${item.detail}`;
    const count = item.detail ? `, ${item.detail} payments` : '';
    return `Stretch ${item.at + 1}: ${item.title}${count}, ${showDay(item.from)} to ${showDay(item.to)}`;
  }

  protected take(event: PointerEvent, item: TimelineItem): void {
    if (this.fixed() || event.button !== 0) return;
    event.preventDefault();
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    this.held.set({ item, model: this.model() });
    this.acted.emit({ act: 'choose', item });
  }

  protected drag(event: PointerEvent): void {
    const held = this.held();
    if (!held) return;
    const track = this.host.nativeElement.querySelector('.track');
    if (!track) return;
    const { left, width } = track.getBoundingClientRect();
    const share = Math.min(1, Math.max(0, (event.clientX - left) / width));
    const { from, to } = held.model;
    this.acted.emit({
      act: 'place',
      item: held.item,
      day: Math.round(from + share * (to - from)),
      dragged: true,
    });
  }

  protected release(): void {
    this.held.set(undefined);
  }

  protected key(event: KeyboardEvent, item: TimelineItem): void {
    const act = this.fixed() ? undefined : actOf(event, item);
    if (!act) return;
    event.preventDefault();
    this.acted.emit(act);
    // Places stay where they are and stretches change between them: the keyboard goes along with the one that moved.
    if (act.act === 'reorder') this.stretches()[item.at + act.by]?.nativeElement.focus();
  }
}

function actOf(event: KeyboardEvent, item: TimelineItem): TimelineAct | undefined {
  const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
  if (event.key === 'Delete' || event.key === 'Backspace') return { act: 'remove', item };
  if (event.key === 'Enter') return { act: 'choose', item };
  if (by === 0) return undefined;
  if (item.kind === 'stretch') {
    return event.altKey
      ? { act: 'reorder', item, by }
      : { act: 'lengthen', item, by: event.shiftKey ? 12 * by : by };
  }
  return event.shiftKey ? { act: 'to-due', item, by } : { act: 'shift', item, by };
}
