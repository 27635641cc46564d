using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Microsoft.EntityFrameworkCore.Storage;
using Npgsql;
using OilTag.Data;

namespace OilTag.Demo;

/// <summary>Copies rows into an empty database, table after table, in a fraction of the time that it takes to add and save them.</summary>
internal static class TableCopy
{
    /// <summary>Writes all rows with what hangs on them, each table after those that it points to.</summary>
    /// <param name="db">The database, within a transaction.</param>
    /// <param name="rows">Rows of any kinds that the model knows.</param>
    /// <param name="ct">Ends it.</param>
    public static async Task WriteAsync(OilTagDb db, IReadOnlyList<object> rows, CancellationToken ct)
    {
        var of = rows.GroupBy(r => r.GetType()).ToDictionary(g => db.Model.FindEntityType(g.Key)!, g => g.ToList());
        foreach (var (type, own) in of.ToList())
        {
            foreach (var hanging in type.GetNavigations().Where(n => n.IsCollection))
            {
                of.Add(hanging.TargetEntityType, Hanging(hanging, own));
            }
        }

        foreach (var type in InOrder(of.Keys.ToHashSet()))
        {
            await CopyAsync(db, type, of[type], ct);
        }
    }

    // What a row holds in a list: each points back to its row.
    private static List<object> Hanging(INavigation list, List<object> rows)
    {
        var back = list.ForeignKey.Properties.Single().PropertyInfo!;
        var id = list.ForeignKey.PrincipalKey.Properties.Single().PropertyInfo!;
        var all = new List<object>();
        foreach (var row in rows)
        {
            foreach (var child in (IEnumerable<object>)list.PropertyInfo!.GetValue(row)!)
            {
                back.SetValue(child, id.GetValue(row));
                all.Add(child);
            }
        }

        return all;
    }

    private static IEnumerable<IEntityType> InOrder(HashSet<IEntityType> left)
    {
        while (left.Count > 0)
        {
            var free = left
                .Where(t => !t.GetForeignKeys().Any(k => k.PrincipalEntityType != t && left.Contains(k.PrincipalEntityType)))
                .ToList();
            if (free.Count == 0)
            {
                var circle = string.Join(", ", left.Select(t => t.ShortName()));
                throw new InvalidOperationException($"Tables point at each other in a circle: {circle}");
            }

            left.ExceptWith(free);
            foreach (var type in free)
            {
                yield return type;
            }
        }
    }

    private static async Task CopyAsync(OilTagDb db, IEntityType type, List<object> rows, CancellationToken ct)
    {
        var table = StoreObjectIdentifier.Create(type, StoreObjectType.Table)!.Value;
        var columns = Columns(type, table, r => r)
            .Concat(Owned(type, table))
            .Where(c => !c.Given || rows.Any(r => !Equals(c.Read(r), c.Unset))).ToList();
        var names = string.Join(", ", columns.Select(c => $"\"{c.Name}\""));
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        await using var copy = await connection.BeginBinaryImportAsync($"copy {table.Name} ({names}) from stdin (format binary)", ct);
        foreach (var row in rows)
        {
            await copy.StartRowAsync(ct);
            foreach (var c in columns)
            {
                var value = c.Read(row);
                value = value is not null && c.Mapping.Converter is { } converter ? converter.ConvertToProvider(value) : value;
                if (value is null)
                {
                    await copy.WriteNullAsync(ct);
                }
                else
                {
                    await copy.WriteAsync(value, c.Mapping.StoreTypeNameBase, ct);
                }
            }
        }

        await copy.CompleteAsync(ct);
    }

    // What the database reckons itself is left to it; what it would give, where no row says anything else, too.
    private static IEnumerable<Column> Columns(IEntityType type, StoreObjectIdentifier table, Func<object, object?> holder) =>
        from p in type.GetProperties()
        where p.PropertyInfo is not null
            && p.GetBeforeSaveBehavior() == PropertySaveBehavior.Save
            && !p.ValueGenerated.HasFlag(ValueGenerated.OnUpdate)
        let read = p.PropertyInfo!
        select new Column(p.GetColumnName(table)!, p.GetRelationalTypeMapping(), r => holder(r) is { } h ? read.GetValue(h) : null,
            p.ValueGenerated != ValueGenerated.Never, p.Sentinel);

    // A measured value lies in columns of the row that it belongs to.
    private static IEnumerable<Column> Owned(IEntityType type, StoreObjectIdentifier table) =>
        from n in type.GetNavigations()
        where n.TargetEntityType.IsOwned()
        from c in Columns(n.TargetEntityType, table, r => n.PropertyInfo!.GetValue(r))
        select c;

    /// <summary>A column, and how its value is read from a row.</summary>
    /// <param name="Given">True when the database gives a value where none is written.</param>
    /// <param name="Unset">The value that stands for none.</param>
    private sealed record Column(string Name, RelationalTypeMapping Mapping, Func<object, object?> Read, bool Given, object? Unset);
}
