using System.Collections;
using System.Reflection;
using OilTag.Core.Machines;
using OilTag.Core.Strip;

namespace OilTag.Data.Machines;

/// <summary>Checks a machine file against itself before anything of it is recorded: nothing points out of it, nothing is twice in it, nothing is absurd.</summary>
public static class MachineCheck
{
    /// <summary>Longest text that is taken, in characters.</summary>
    private const int LongestText = 50_000;

    /// <summary>Largest number that a tag, finding, package … may have.</summary>
    public const int LargestNumber = 9_999_999;

    /// <summary>Most sentences that are given at once.</summary>
    private const int MostSentences = 12;

    // Numbers that may be below nought: pieces and money that were taken back, values in units that have a zero of their own.
    private static readonly HashSet<string> MayBeNegative = new(StringComparer.Ordinal) { "Pieces", "Pence", "Si", "X1", "X2", "Y1", "Y2" };

    // A run of readings is told apart by an id that names nothing.
    private static readonly HashSet<string> NamesNothing = new(StringComparer.Ordinal) { "RunId" };

    private static readonly Dictionary<Type, PropertyInfo[]> Known = [];

    /// <summary>Every id that a row of the file points to, in whatever depth.</summary>
    public static IEnumerable<Guid> References(MachineFile file)
    {
        ArgumentNullException.ThrowIfNull(file);
        return Rows(file).SelectMany(r => Walk(r.Row)).Where(v => v.Value is Guid && v.Name != "Id").Select(v => (Guid)v.Value!);
    }

    /// <summary>What is wrong with the file, in sentences; empty when all of it can be recorded.</summary>
    public static IReadOnlyList<string> Check(MachineFile file)
    {
        ArgumentNullException.ThrowIfNull(file);
        var wrong = new List<string>();
        void Say(string s)
        {
            if (wrong.Count < MostSentences && !wrong.Contains(s))
            {
                wrong.Add(s);
            }
        }

        var rows = Rows(file).ToList();
        var ids = new Dictionary<Type, HashSet<Guid>>();
        var all = new HashSet<Guid>();
        foreach (var (list, row) in rows)
        {
            foreach (var (type, id) in Ids(row))
            {
                if (id == Guid.Empty || !all.Add(id))
                {
                    Say($"In “{list}” an id is empty or stands there twice.");
                }

                (ids.TryGetValue(type, out var set) ? set : ids[type] = []).Add(id);
            }
        }

        foreach (var (list, row) in rows)
        {
            foreach (var (owner, name, value) in Walk(row))
            {
                switch (value)
                {
                    case Guid id when name == "MachineId" && id != file.Machine.Id:
                        Say($"In “{list}” something belongs to another machine.");
                        break;
                    case Guid id when name != "Id" && name.EndsWith("Id", StringComparison.Ordinal) && !NamesNothing.Contains(name) && MachineJson.Describe(owner) is not null && !all.Contains(id):
                        Say($"In “{list}” something points to what is not in the file ({name}).");
                        break;
                    case Guid id when Target(owner, name) is { } target && !(ids.TryGetValue(target, out var set) && set.Contains(id)):
                        Say($"In “{list}” {name} points to the wrong kind of thing.");
                        break;
                    case string json when name is "Before" or "After":
                        if (!IsJson(json))
                        {
                            Say($"In “{list}” what was there before or after a change cannot be read.");
                        }

                        break;
                    case string text when text.Length > LongestText || text.Any(c => char.IsControl(c) && c is not ('\n' or '\r' or '\t')):
                        Say($"In “{list}” a text is too long or cannot be printed ({name}).");
                        break;
                    case int n when n < 0 && !MayBeNegative.Contains(name):
                        Say($"In “{list}” a number is below nought ({name}).");
                        break;
                    case int n when name == "Number" && (n < 1 || n > LargestNumber):
                        Say($"In “{list}” a number is not from 1 to {LargestNumber}.");
                        break;
                    case long n when n < 0 && !MayBeNegative.Contains(name):
                        Say($"In “{list}” a number is below nought ({name}).");
                        break;
                    case double d when !double.IsFinite(d):
                        Say($"In “{list}” a number is no number ({name}).");
                        break;
                    case Enum e when !e.GetType().IsDefined(typeof(FlagsAttribute)) && !Enum.IsDefined(e.GetType(), e):
                        Say($"In “{list}” {name} is none of the words that are known.");
                        break;
                }
            }
        }

        CheckMachine(file, Say);
        return wrong;
    }

    private static void CheckMachine(MachineFile file, Action<string> say)
    {
        var m = file.Machine;
        if (m.Letter.Length != 1 || m.Letter[0] is < 'A' or > 'Z')
        {
            say("The machine’s letter is none from A to Z.");
        }

        if (!KeeperRules.Tins.Contains(m.Tin))
        {
            say("The machine’s livery is none that is known here.");
        }

        if (m.Name.Trim().Length is 0 or > 60)
        {
            say("The machine has no name, or one that is too long.");
        }

        var parents = file.Places.GroupBy(p => p.Id).ToDictionary(g => g.Key, g => g.First().ParentId);
        if (file.Places.Any(p => Steps(p.Id, parents) > parents.Count))
        {
            say("The breakdown goes round in a circle.");
        }

        var slots = file.Places.Where(p => p.Kind == PlaceKind.Slot).Select(p => p.Id).ToHashSet();
        if (file.Tags.Any(t => !slots.Contains(t.SlotId)) || file.Fittings.Any(f => !slots.Contains(f.SlotId)))
        {
            say("A tag or a part is at an assembly and not in a slot.");
        }

        if (file.Tags.Where(t => t.End is null).GroupBy(t => t.SlotId).Any(g => g.Count() > 1) || file.Fittings.Where(f => f.Until is null).GroupBy(f => f.SlotId).Any(g => g.Count() > 1))
        {
            say("A slot has two open tags, or two parts in it at once.");
        }

        var stripped = file.StripEntries.Select(e => e.TagId).ToHashSet();
        if (file.StripEntries.Count != stripped.Count || file.Tags.Any(t => !stripped.Contains(t.Id)))
        {
            say("A tag does not say once how its part came off.");
        }

        if (file.Custodies.Where(c => c.Until is null).GroupBy(c => c.TagId).Any(g => g.Count() > 1))
        {
            say("A part is at two places at once.");
        }

        if (file.Photos.Any(p => p.ContentType is not ("image/jpeg" or "image/png")) || file.Papers.Any(p => p.ContentType is not ("image/jpeg" or "image/png" or "application/pdf")) || file.CardFiles.Any(f => !Core.Make.CardFileRule.Kinds.Contains(f.ContentType)) || file.Outlines.Any(o => o.ContentType is not ("image/jpeg" or "image/png" or "image/svg+xml")))
        {
            say("A photo or paper is of a kind that is not kept.");
        }

        if (file.Photos.Any(p => (p.FindingId is null) == (p.CellId is null)))
        {
            say("A photo belongs to nothing, or to two things.");
        }

        if (file.Outlines.Count > 1)
        {
            say("The machine has two outlines.");
        }

        if (file.Hours.Any(h => h.Minutes is < 1 or > 24 * 60))
        {
            say("Somebody worked no time, or more than a day, in one day.");
        }
    }

    // Steps from a place to the top; more than there are places when it never gets there.
    private static int Steps(Guid place, Dictionary<Guid, Guid?> parents)
    {
        var steps = 0;
        for (Guid? at = place; at is { } id && steps <= parents.Count; steps++)
        {
            at = parents.GetValueOrDefault(id);
        }

        return steps;
    }

    private static bool IsJson(string text)
    {
        try
        {
            using var _ = System.Text.Json.JsonDocument.Parse(text);
            return true;
        }
        catch (System.Text.Json.JsonException)
        {
            return false;
        }
    }

    private static IEnumerable<(string List, object Row)> Rows(MachineFile file)
    {
        yield return ("machine", file.Machine);
        foreach (var (property, _) in MachineJson.Lists)
        {
            var name = char.ToLowerInvariant(property.Name[0]) + property.Name[1..];
            foreach (var row in (IEnumerable)property.GetValue(file)!)
            {
                yield return (name, row);
            }
        }
    }

    // The ids of a row and of the rows in it: fasteners of a removal, operations of a package, stages of a card.
    private static IEnumerable<(Type Type, Guid Id)> Ids(object row) => Walk(row).Where(v => v.Name == "Id" && v.Value is Guid).Select(v => (v.Owner, (Guid)v.Value!));

    // Values of a row and of everything in it, with the type that holds each.
    private static IEnumerable<(Type Owner, string Name, object? Value)> Walk(object row)
    {
        var type = row.GetType();
        foreach (var p in Properties(type))
        {
            var value = p.GetValue(row);
            foreach (var item in value is IEnumerable list and not string ? list.Cast<object?>() : [value])
            {
                if (item is string or ValueType)
                {
                    yield return (type, p.Name, item);
                }
                else if (item is not null)
                {
                    foreach (var v in Walk(item))
                    {
                        yield return v;
                    }
                }
            }
        }
    }

    // What is written of a type: its settable properties.
    private static PropertyInfo[] Properties(Type type)
    {
        lock (Known)
        {
            return Known.TryGetValue(type, out var p) ? p : Known[type] = [.. type.GetProperties().Where(x => x.CanWrite && x.GetIndexParameters().Length == 0 && x.Name != "Version")];
        }
    }

    // The kind of row that a foreign key points to; people and what only the file has are checked by their ids alone.
    private static Type? Target(Type owner, string name) => Targets.TryGetValue((owner, name), out var t) ? t : null;

    private static readonly Dictionary<(Type, string), Type> Targets = MachineJson.Lists.Select(l => l.Row).Concat([typeof(Fastener), typeof(OilTag.Core.Work.Operation), typeof(OilTag.Core.Make.Stage)])
        .Select(MachineJson.Describe).OfType<Microsoft.EntityFrameworkCore.Metadata.IEntityType>()
        .SelectMany(e => e.GetForeignKeys()).Where(k => k.Properties.Count == 1 && k.Properties[0].PropertyInfo is not null && k.PrincipalEntityType.ClrType != typeof(OilTag.Core.People.Person))
        .ToDictionary(k => (k.DeclaringEntityType.ClrType, k.Properties[0].Name), k => k.PrincipalEntityType.ClrType);
}
