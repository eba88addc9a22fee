/**
 * Files that are kept at an instrument. Their bytes never change, and their hash is the bytes' own; what is taken away
 * loses its bytes and keeps its name, its hash and why.
 */
export const papers = /* sql */ `
create table paper (
  id uuid primary key default gen_random_uuid(),
  company_id int not null references company,
  instrument_id uuid not null references instrument,
  name text not null check (name <> ''),
  type text not null check (type in ('application/pdf', 'image/png', 'image/jpeg')),
  bytes int not null check (bytes between 1 and 25000000),
  sha256 bytea not null,
  content bytea,
  kept_by int references person,
  kept_at timestamptz not null default now(),
  taken_away_at timestamptz,
  taken_away_by int references person,
  taken_away_because text check (taken_away_because <> ''),
  constraint paper_is_what_it_was check (content is null or (sha256 = sha256(content) and bytes = length(content))),
  constraint taken_away_with_its_reason check (
    (content is null) = (taken_away_at is not null) and (taken_away_at is null) = (taken_away_because is null))
);
-- What is a picture or a PDF is packed already.
alter table paper alter column content set storage external;
create unique index paper_once on paper (instrument_id, sha256) where content is not null;

create function paper_stays() returns trigger language plpgsql as $$
begin
  if tg_op = 'DELETE' or old.taken_away_at is not null
    or (new.id, new.company_id, new.instrument_id, new.name, new.type, new.bytes, new.sha256, new.kept_by, new.kept_at)
      is distinct from
      (old.id, old.company_id, old.instrument_id, old.name, old.type, old.bytes, old.sha256, old.kept_by, old.kept_at)
    or (new.content is not null and new.content is distinct from old.content)
  then
    raise exception 'A paper is taken away with its reason; nothing else of it changes.' using errcode = 'CF002';
  end if;
  return new;
end $$;
create trigger paper_stays before update or delete on paper for each row execute function paper_stays();
create trigger paper_no_truncate before truncate on paper execute function reject_change();
`;
