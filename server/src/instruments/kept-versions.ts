import { rowCount, type AnySchedule } from '@coffer/core';
import type { StoredVersion } from './known-instruments.ts';

/** Versions of one instrument that are kept at most: the newest, the one before it, and those that closed months came from. */
const mostOfOne = 4;

/**
 * What versions make, kept by instrument and version as long as the document is the same: a version that was written and
 * taken back with its transaction may be written anew, otherwise. The least lately used goes first, of an instrument that is
 * changed again and again its own.
 */
export class KeptVersions<Known extends { readonly schedule: AnySchedule }> {
  private readonly kept = new Map<string, { readonly document: string; readonly known: Known }>();
  /** The versions of each instrument that are kept, the least lately used first. */
  private readonly ofInstrument = new Map<string, number[]>();
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
      this.used(id, version);
      return found.known;
    }
    this.forget(id, version);
    const known = make();
    this.kept.set(key, { document, known });
    this.rows += rowCount(known.schedule);
    const [oldest, ...others] = this.used(id, version);
    if (oldest !== undefined && others.length >= mostOfOne) this.forget(id, oldest);
    for (const oldestKey of this.kept.keys()) {
      if (this.rows <= this.mostRows || oldestKey === key) break;
      const [ofId = '', ofVersion] = oldestKey.split(':');
      this.forget(ofId, Number(ofVersion));
    }
    return known;
  }

  /** Puts a version last among those of its instrument; gives them all. */
  private used(id: string, version: number): readonly number[] {
    const versions = (this.ofInstrument.get(id) ?? []).filter((each) => each !== version);
    versions.push(version);
    this.ofInstrument.set(id, versions);
    return versions;
  }

  private forget(id: string, version: number): void {
    const key = `${id}:${version}`;
    const found = this.kept.get(key);
    if (!found) return;
    this.kept.delete(key);
    this.rows -= rowCount(found.known.schedule);
    const versions = (this.ofInstrument.get(id) ?? []).filter((each) => each !== version);
    if (versions.length === 0) this.ofInstrument.delete(id);
    else this.ofInstrument.set(id, versions);
  }
}
