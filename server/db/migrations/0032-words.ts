/** Frozen history: the words there are, so that a word that is none of them may be taken for one that is. */
export const up = /* sql */ `
create extension if not exists pg_trgm;
create table search_words (word text collate "C" primary key);
create index search_words_near on search_words using gin (word gin_trgm_ops);

create function keep_search_words() returns trigger language plpgsql as $$
begin
  insert into search_words select distinct word from regexp_split_to_table(new.search_text, '[^[:alnum:]]+') word
    where length(word) between 4 and 40 and word !~ '[0-9]' on conflict do nothing;
  return null;
end $$;
create trigger loops_keep_words_new after insert on loops for each row execute function keep_search_words();
create trigger loops_keep_words after update of search_text on loops for each row when (old.search_text is distinct from new.search_text) execute function keep_search_words();

insert into search_words select distinct word from loops, regexp_split_to_table(search_text, '[^[:alnum:]]+') word
  where length(word) between 4 and 40 and word !~ '[0-9]' on conflict do nothing;
`;

export const down = /* sql */ `
drop trigger loops_keep_words on loops;
drop trigger loops_keep_words_new on loops;
drop function keep_search_words();
drop table search_words;
`;
