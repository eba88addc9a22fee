import { rowCount, type AnySchedule } from '@coffer/core';
import type { StoredVersion } from './known-instruments.ts';

/**
 * What versions make, kept by instrument and version as long as the document is the same: a version that was written and
 * taken back with its transaction may be written anew, otherwise. The least lately used goes first.
 */
export class KeptVersions<Known extends { readonly schedule: AnySchedule }> {
  private readonly kept = new Map<string, { readonly document: string; readonly known: Known }>();
  private rows = 0;

  /** @param mostRows rows of schedules that are kept at most, some fifty bytes each */
  constructor(private readonly mostRows: number) {}

  /** What a version makes: as it is kept, or made now. */
  of({ id, version, document }: StoredVersion, make: () => Known): Known {
    const key = `${id}:${version}`;
    const found = this.kept.get(key);
    if (found?.document === document) {
      this.kept.delete(key);
      this.kept.set(key, found);
      return found.known;
    }
    this.forget(key);
    const known = make();
    this.kept.set(key, { document, known });
    this.rows += rowCount(known.schedule);
    for (const oldest of this.kept.keys()) {
      if (this.rows <= this.mostRows || oldest === key) break;
      this.forget(oldest);
    }
    return known;
  }

  private forget(key: string): void {
    const found = this.kept.get(key);
    if (!found) return;
    this.kept.delete(key);
    this.rows -= rowCount(found.known.schedule);
  }
}
