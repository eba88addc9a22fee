import type { Row } from '../../fields/field';
import { fieldsOf } from '../../fields/field';
import { partOf, typedOf, type Part } from '../../fields/described-part';
import type { FieldReader } from '../../fields/field-reader';

/** How one type of event is typed, and where the document has it. */
export interface DescribedEvent<Typed> {
  /** The list of the document that it belongs to. */
  readonly list: string;
  /** What the document says of every event of the type. */
  readonly fixed: Readonly<Record<string, string>>;
  readonly rows: readonly Row<Typed>[];
}

/** The events of a form by their types. */
export type DescribedEvents<Type extends string, Typed> = Readonly<Record<Type, DescribedEvent<Typed>>>;

/** Typed events in the lists of the document that they belong to. */
export interface ReadEvents {
  /** By the document's key of each list. */
  readonly lists: ReadonlyMap<string, readonly Part[]>;
  /** The document's key of each typed event, in the order of the form; empty for one that says nothing yet. */
  readonly keys: readonly string[];
}

/** Reads typed events, those aside that `says` nothing yet. */
export function readEvents<Type extends string, Typed extends { readonly type: Type }>(
  described: DescribedEvents<Type, Typed>,
  events: readonly Typed[],
  reader: FieldReader,
  says: (event: Typed) => boolean = () => true,
): ReadEvents {
  const lists = new Map<string, Part[]>();
  const keys = events.map((event) => {
    if (!says(event)) return '';
    const { list, fixed, rows } = described[event.type];
    const members = lists.get(list) ?? [];
    const key = `${list}.${members.length}`;
    members.push({ ...fixed, ...partOf(fieldsOf([{ rows }]), event, reader, key) });
    lists.set(list, members);
    return key;
  });
  return { lists, keys };
}

/** The members of a list of a document as they are typed; those of no type that the form knows are left out. */
export function typedEvents<Type extends string, Typed extends { readonly type: Type }>(
  described: DescribedEvents<Type, Typed>,
  list: string,
  members: readonly object[],
): Partial<Typed>[] {
  const ofList = (Object.entries(described) as [Type, DescribedEvent<Typed>][]).filter(
    ([, event]) => event.list === list,
  );
  return members.flatMap((member) => {
    const said = new Map<string, unknown>(Object.entries(member));
    const fits = ofList.filter(([, event]) =>
      needed(event).every(([key, value]) => (value === undefined ? said.has(key) : said.get(key) === value)),
    );
    // Of several types that fit, the one that asks for more of what is there.
    const [best] = fits.toSorted(([, a], [, b]) => needed(b).length - needed(a).length);
    if (!best) return [];
    const [type, { rows }] = best;
    return [{ ...typedOf(fieldsOf([{ rows }]), member), type } as Partial<Typed>];
  });
}

/** What a member of a list must say to be of a type: keys, with their values where these are always the same. */
function needed<Typed>({
  fixed,
  rows,
}: DescribedEvent<Typed>): readonly (readonly [string, string | undefined])[] {
  const typed = fieldsOf([{ rows }]).flatMap((field) =>
    'reads' in field && !field.optional && field.key !== undefined ? [[field.key, undefined] as const] : [],
  );
  return [...Object.entries(fixed), ...typed];
}
