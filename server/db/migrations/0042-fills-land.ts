/** Frozen history: where a fill lands is a fact of it: at its end, or where something strikes in its last part, or where somebody said. */
export const up = /* sql */ `
update loops l set landing_seconds = case when beats is not null and tempo_bpm is not null then first_bar_seconds + beats * 60 / tempo_bpm else length_seconds end
where set_role = 'fill' and not exists (select 1 from facts f where f.loop_id = l.id and f.attribute = 'landing' and f.source in ('person', 'project'))
  and (landing_seconds is null or landing_seconds < 0.8 * case when beats is not null and tempo_bpm is not null then first_bar_seconds + beats * 60 / tempo_bpm else length_seconds end);
`;

export const down = /* sql */ `
select 1;
`;
