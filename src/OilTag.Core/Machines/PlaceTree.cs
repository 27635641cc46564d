namespace OilTag.Core.Machines;

/// <summary>The least a rule needs to know of a place.</summary>
/// <param name="Id">Identity.</param>
/// <param name="ParentId">The assembly that holds it, or null at the top.</param>
/// <param name="Name">Full name.</param>
/// <param name="Kind">Assembly or slot.</param>
/// <param name="Standard">Own standard or null.</param>
public sealed record PlaceNode(Guid Id, Guid? ParentId, string Name, PlaceKind Kind, RestorationStandard? Standard = null);

/// <summary>Questions about a machine's breakdown tree. Pure; the caller loads the nodes.</summary>
public sealed class PlaceTree
{
    private readonly Dictionary<Guid, PlaceNode> nodes;
    private readonly ILookup<Guid?, PlaceNode> children;

    /// <summary>Builds the tree from the places of one machine, in any order.</summary>
    public PlaceTree(IEnumerable<PlaceNode> places)
    {
        nodes = places.ToDictionary(p => p.Id);
        children = nodes.Values.ToLookup(p => p.ParentId);
    }

    /// <summary>The tree of places as they are recorded.</summary>
    public static PlaceTree Of(IEnumerable<Place> places)
    {
        ArgumentNullException.ThrowIfNull(places);
        return new PlaceTree(places.Select(p => new PlaceNode(p.Id, p.ParentId, p.FullName, p.Kind, p.Standard)));
    }

    /// <summary>The place and everything above it, from the place upwards. Stops at a place that it has met, so a damaged tree cannot hang it.</summary>
    public IReadOnlyList<PlaceNode> PathUp(Guid id)
    {
        var path = new List<PlaceNode>();
        var seen = new HashSet<Guid>();
        Guid? at = id;
        while (at is { } g && nodes.TryGetValue(g, out var node) && seen.Add(g))
        {
            path.Add(node);
            at = node.ParentId;
        }

        return path;
    }

    /// <summary>The place and everything below it.</summary>
    public IReadOnlySet<Guid> Within(Guid id)
    {
        var all = new HashSet<Guid>();
        var open = new Stack<Guid>();
        open.Push(id);
        while (open.TryPop(out var at))
        {
            if (all.Add(at))
            {
                foreach (var child in children[at])
                {
                    open.Push(child.Id);
                }
            }
        }

        return all;
    }

    /// <summary>The standard that holds at a place: its own, else the nearest above, else the machine's; and the name of what set it.</summary>
    public (RestorationStandard Standard, string SetBy) StandardAt(Guid id, RestorationStandard ofMachine, string machineName)
    {
        foreach (var node in PathUp(id))
        {
            if (node.Standard is { } own)
            {
                return (own, node.Name);
            }
        }

        return (ofMachine, machineName);
    }

    /// <summary>Why a place cannot hang under a new parent, or null when it can. A parent that lies below the place would close a circle.</summary>
    public Problem? WhyNotUnder(Guid id, Guid? newParent)
    {
        if (newParent is not { } parent)
        {
            return nodes.TryGetValue(id, out var top) && top.Kind == PlaceKind.Slot
                ? new Problem("Parent", $"{top.Name} is a slot for a part; it needs an assembly above it.")
                : null;
        }

        if (!nodes.TryGetValue(parent, out var p))
        {
            return new Problem("Parent", "That assembly is not part of this machine. Choose another.");
        }

        if (p.Kind == PlaceKind.Slot)
        {
            return new Problem("Parent", $"{p.Name} holds one part and nothing below it. Choose an assembly.");
        }

        return Within(id).Contains(parent)
            ? new Problem("Parent", parent == id
                ? $"{p.Name} cannot hang under itself. Choose another assembly."
                : $"{p.Name} already hangs under {nodes[id].Name}, so it would go round in a circle. Choose another assembly.")
            : null;
    }

    /// <summary>Checks the entries of the form that edits a place.</summary>
    public IReadOnlyList<Problem> CheckEdit(Guid id, string? name, int? position, Guid? parent)
    {
        var problems = new List<Problem>();
        TextRules.Need(problems, "Name", name, "Give the place a name, such as Smokebox door.", 80);
        if (position is < 1 or > 999)
        {
            problems.Add(new Problem("Position", "Positions count from 1 to 999. Leave it empty where there is only one."));
        }

        if (WhyNotUnder(id, parent) is { } circle)
        {
            problems.Add(circle);
        }

        return problems;
    }
}
