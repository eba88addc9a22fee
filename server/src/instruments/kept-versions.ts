import { rowCount, type AnySchedule } from '@coffer/core';
import type { StoredVersion } from './known-instruments.ts';

/** What versions make, kept by instrument and version: versions never change. The least lately used goes first. */
export class KeptVersions<Known extends { readonly schedule: AnySchedule }> {
  private readonly kept = new Map<string, Known>();
  private rows = 0;

  /** @param mostRows rows of schedules that are kept at most, some fifty bytes each */
  constructor(private readonly mostRows: number) {}

  /** What a version makes: as it is kept, or made now. */
  of({ id, version }: StoredVersion, make: () => Known): Known {
    const key = `${id}:${version}`;
    const found = this.kept.get(key);
    if (found) {
      this.kept.delete(key);
      this.kept.set(key, found);
      return found;
    }
    const made = make();
    this.kept.set(key, made);
    this.rows += rowCount(made.schedule);
    for (const [oldest, old] of this.kept) {
      if (this.rows <= this.mostRows || oldest === key) break;
      this.kept.delete(oldest);
      this.rows -= rowCount(old.schedule);
    }
    return made;
  }
}
