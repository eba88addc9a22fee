import { rowCount, type AnySchedule } from '@coffer/core';
import type { StoredVersion } from './known-instruments.ts';

/** Versions of one instrument that are kept at most: the newest, the one before it, and those that closed months came from. */
const mostOfOne = 4;

interface Kept<Known> {
  readonly id: string;
  readonly document: string;
  readonly known: Known;
}

/**
 * What versions make, kept by instrument and version as long as the document is the same: a version that was written and
 * taken back with its transaction may be written anew, otherwise. The least lately used goes first, of an instrument that is
 * changed again and again its own.
 */
export class KeptVersions<Known extends { readonly schedule: AnySchedule }> {
  private readonly kept = new Map<string, Kept<Known>>();
  /** The keys of each instrument's versions, the least lately used first. */
  private readonly ofInstrument = new Map<string, Set<string>>();
  private rows = 0;

  /** @param mostRows rows of schedules that are kept at most, some fifty bytes each */
  constructor(private readonly mostRows: number) {}

  /** What a version makes: as it is kept, or made now. */
  of({ id, version, document }: StoredVersion, make: () => Known): Known {
    const key = `${id}:${version}`;
    const found = this.kept.get(key);
    this.forget(key);
    if (found?.document === document) {
      this.keep(key, found);
      return found.known;
    }
    const known = make();
    const ofSame = this.keep(key, { id, document, known });
    const [oldest] = ofSame;
    if (oldest !== undefined && ofSame.size > mostOfOne) this.forget(oldest);
    for (const least of this.kept.keys()) {
      if (this.rows <= this.mostRows || least === key) break;
      this.forget(least);
    }
    return known;
  }

  /** Keeps something as what was used last; gives the keys of its instrument. */
  private keep(key: string, one: Kept<Known>): Set<string> {
    this.kept.set(key, one);
    this.rows += rowCount(one.known.schedule);
    const ofSame = this.ofInstrument.get(one.id) ?? new Set();
    this.ofInstrument.set(one.id, ofSame.add(key));
    return ofSame;
  }

  private forget(key: string): void {
    const found = this.kept.get(key);
    if (!found) return;
    this.kept.delete(key);
    this.rows -= rowCount(found.known.schedule);
    const ofSame = this.ofInstrument.get(found.id);
    ofSame?.delete(key);
    if (ofSame?.size === 0) this.ofInstrument.delete(found.id);
  }
}
