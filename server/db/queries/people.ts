export const peopleSql = /* sql */ `select p.id, p.name::text as name, p.role, p.created_at as "createdAt",
    coalesce(l.count, 0) as loops, coalesce(f.count, 0) as corrections, coalesce(v.count, 0) as favourites
    from people p
    left join (select added_by, count(*)::int as count from loops where archived_at is null group by added_by) l on l.added_by = p.id
    left join (select person_id, count(*)::int as count from facts where person_id is not null and superseded_at is null group by person_id) f on f.person_id = p.id
    left join (select person_id, count(*)::int as count from favourites group by person_id) v on v.person_id = p.id
    where p.archived_at is null order by p.name`;

export const removedSql = /* sql */ `select id, name::text as name from people where archived_at is not null order by archived_at desc, id desc`;

export const activitySql = /* sql */ `select a.id, p.name::text as person, a.verb, a.subject, a.subject_id as "subjectId", a.detail, a.at from activity a join people p on p.id = a.person_id order by a.at desc, a.id desc limit $1`;
