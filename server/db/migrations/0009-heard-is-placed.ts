/**
 * Frozen history: a phrase may have a tempo, by a person's word; a clip may be raised as far as an even level asks for; a mixdown is of the
 * project as it was when it was asked for, and says what becomes of what passes full scale.
 */
export const up = /* sql */ `
alter table loops drop constraint loops_check1;
alter table loops add constraint loops_tempo_of_kind_check check (kind <> 'one-shot' or tempo_bpm is null);
alter table clips drop constraint clips_gain_db_check;
alter table clips add constraint clips_gain_db_check check (gain_db between -60 and 30);
alter table exports add column project jsonb;
alter table exports add column overs text not null default 'lower' check (overs in ('lower', 'clip'));
alter table exports drop constraint exports_bits_check;
alter table exports add constraint exports_bits_check check (bits in (16, 24, 32));
`;

export const down = /* sql */ `
delete from exports where bits = 32;
alter table exports drop constraint exports_bits_check;
alter table exports add constraint exports_bits_check check (bits in (16, 24));
alter table exports drop column overs;
alter table exports drop column project;
update clips set gain_db = 12 where gain_db > 12;
alter table clips drop constraint clips_gain_db_check;
alter table clips add constraint clips_gain_db_check check (gain_db between -60 and 12);
update loops set tempo_bpm = null where kind not in ('loop', 'full-mix');
alter table loops drop constraint loops_tempo_of_kind_check;
alter table loops add constraint loops_check1 check (kind in ('loop', 'full-mix') or tempo_bpm is null);
`;
