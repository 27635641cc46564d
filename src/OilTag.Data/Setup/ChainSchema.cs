namespace OilTag.Data.Setup;

/// <summary>The chain of the record in the database: who writes a row, by whatever way, has it chained when the transaction ends.</summary>
public static class ChainSchema
{
    /// <summary>Number of the lock under which a row is chained.</summary>
    private const int Turn = 417418;

    private static readonly (string Table, string Key, string Content)[] Chained =
    [
        ("log_entries", "id::text", "moment(r.at), r.person_id, r.machine_id, r.place_id, r.tag_id, r.package_id, r.sentence, r.before, r.after"),
        ("sign_offs", "id::text", "r.operation_id, r.by_id, moment(r.at), r.note"),
        ("sign_off_voids", "id::text", "r.sign_off_id, r.by_id, moment(r.at), r.why"),
        ("package_revisions", "id::text", "r.package_id, r.number, r.changes, r.why, r.by_id, moment(r.at)"),
    ];

    /// <summary>Tables whose rows are chained.</summary>
    public static IReadOnlyList<string> Tables => [.. Chained.Select(c => c.Table)];

    /// <summary>Makes the chain, and chains what is there in its order.</summary>
    public static string Up =>
        $$"""
        create table chain_links (number bigint primary key, of_table text not null, of_row text not null, content text not null, hash text not null, unique (of_table, of_row));
        create function chain_moment(at timestamptz) returns text language sql immutable as $$ select (extract(epoch from at) * 1000000)::bigint::text $$;
        create function chain_content(variadic fields text[]) returns text language sql immutable as $$
          select encode(sha256(convert_to((select string_agg(coalesce(f, ''), chr(31) order by n) from unnest(fields) with ordinality u(f, n)), 'UTF8')), 'hex') $$;
        create function chain_add(which text, key text, body text) returns void language plpgsql security definer set search_path = public as $$
        declare last chain_links%rowtype;
        begin
          perform pg_advisory_xact_lock({{Turn}});
          select * into last from chain_links order by number desc limit 1;
          insert into chain_links values (coalesce(last.number, 0) + 1, which, key, body, encode(sha256(convert_to(coalesce(last.hash, '') || '|' || which || '|' || key || '|' || body, 'UTF8')), 'hex'));
        end $$;
        revoke all on function chain_add(text, text, text) from public;
        {{string.Concat(Chained.Select(Trigger))}}
        do $$ declare r record; begin
        {{string.Concat(Chained.Select(c => $"for r in select * from {c.Table} order by at, id loop perform chain_add('{c.Table}', r.{c.Key}, chain_content({Text(c.Content)})); end loop;\n"))}}
        end $$;
        """;

    /// <summary>Takes the chain away.</summary>
    public static string Down => string.Concat(Chained.Select(c => $"drop trigger {c.Table}_chain on {c.Table}; drop function chain_{c.Table}();"))
        + "drop function chain_add(text, text, text); drop function chain_content(text[]); drop function chain_moment(timestamptz); drop table chain_links;";

    private static string Trigger((string Table, string Key, string Content) c) =>
        $$"""
        create function chain_{{c.Table}}() returns trigger language plpgsql security definer set search_path = public as $$
        declare r {{c.Table}}%rowtype := new;
        begin
          perform chain_add('{{c.Table}}', r.{{c.Key}}, chain_content({{Text(c.Content)}}));
          return null;
        end $$;
        create constraint trigger {{c.Table}}_chain after insert on {{c.Table}} deferrable initially deferred for each row execute function chain_{{c.Table}}();

        """;

    private static string Text(string fields) => string.Join(", ", fields.Split(", ").Select(f => f.StartsWith("moment(", StringComparison.Ordinal) ? "chain_" + f : f + "::text"));
}
