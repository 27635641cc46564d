using NodaTime;

namespace OilTag.Core.Strip;

/// <summary>What joined a part to the rest.</summary>
public enum ConnectionKind
{
    /// <summary>Electric wire.</summary>
    Wire,

    /// <summary>Hose.</summary>
    Hose,

    /// <summary>Pipe.</summary>
    Pipe,

    /// <summary>Rod or linkage.</summary>
    Rod,

    /// <summary>Control cable or chain.</summary>
    Cable,
}

/// <summary>Something that was undone when a part came off, and is ticked when it is joined again.</summary>
public class Connection
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Tag of the part that it was undone from.</summary>
    public Guid TagId { get; init; }

    /// <summary>Slot of that part, where it is joined again.</summary>
    public Guid SlotId { get; init; }

    /// <summary>Kind.</summary>
    public ConnectionKind Kind { get; init; }

    /// <summary>Label or colour, terminal, port or hole, and route, in words: "red, terminal B2, under the step".</summary>
    public required string What { get; init; }

    /// <summary>When it was joined again; null while it is open.</summary>
    public Instant? JoinedAt { get; set; }

    /// <summary>Who joined it.</summary>
    public Guid? JoinedById { get; set; }
}

/// <summary>Kinds of things that go in for a time and must come out.</summary>
public enum TemporaryKind
{
    /// <summary>Plug or blank.</summary>
    Plug,

    /// <summary>Rag or packing.</summary>
    Rag,

    /// <summary>Clamp or skin pin.</summary>
    Clamp,

    /// <summary>Prop, trestle or sling.</summary>
    Prop,

    /// <summary>Safety lock or pin.</summary>
    Lock,

    /// <summary>Substitute part for a test.</summary>
    Substitute,

    /// <summary>Tool taken inside.</summary>
    Tool,
}

/// <summary>A thing that is in for a time: in and out by register.</summary>
public class TemporaryItem
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place that it is in.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>Kind.</summary>
    public TemporaryKind Kind { get; init; }

    /// <summary>What it is, and how many.</summary>
    public required string What { get; init; }

    /// <summary>When it went in.</summary>
    public Instant InAt { get; init; }

    /// <summary>Who put it in.</summary>
    public Guid InById { get; init; }

    /// <summary>When it came out; null while it is in.</summary>
    public Instant? OutAt { get; set; }

    /// <summary>Who took it out.</summary>
    public Guid? OutById { get; set; }
}

/// <summary>What a surface is like.</summary>
public enum SurfaceState
{
    /// <summary>Bare metal: rusts overnight in a damp shed.</summary>
    Bare,

    /// <summary>Oiled or primed for now.</summary>
    Protected,

    /// <summary>Coated for good.</summary>
    Coated,
}

/// <summary>The state of the surfaces in a place since a moment; the latest holds.</summary>
public class Surface
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>State.</summary>
    public SurfaceState State { get; init; }

    /// <summary>With what, in a few words.</summary>
    public string With { get; init; } = string.Empty;

    /// <summary>Since when.</summary>
    public Instant At { get; init; }

    /// <summary>Who said so.</summary>
    public Guid ById { get; init; }

    /// <summary>When a later entry took its place; null while it holds.</summary>
    public Instant? Until { get; set; }
}

/// <summary>What a system is filled with or energised to.</summary>
public enum SystemState
{
    /// <summary>Nobody knows.</summary>
    Unknown,

    /// <summary>Full or live.</summary>
    Full,

    /// <summary>In part.</summary>
    Part,

    /// <summary>Drained or let out.</summary>
    Drained,

    /// <summary>Isolated or disconnected.</summary>
    Isolated,
}

/// <summary>Acts that the state of a machine may forbid.</summary>
[Flags]
public enum Acts
{
    /// <summary>None.</summary>
    None = 0,

    /// <summary>Running the engine or turning it over.</summary>
    Run = 1,

    /// <summary>Moving or towing.</summary>
    Move = 2,

    /// <summary>Filling with fuel or water.</summary>
    Fuel = 4,

    /// <summary>Lowering, or moving its supports.</summary>
    Lower = 8,

    /// <summary>Lifting by crane, jacks or hoist.</summary>
    Lift = 16,

    /// <summary>Closing it up.</summary>
    Close = 32,
}

/// <summary>A fluid or energy system of a machine and its state.</summary>
public class MachineSystem
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Name, such as Gearbox oil.</summary>
    public required string Name { get; init; }

    /// <summary>State.</summary>
    public SystemState State { get; set; }

    /// <summary>How much is in it and of what, in words.</summary>
    public string Amount { get; set; } = string.Empty;

    /// <summary>What must not be done while it is not full.</summary>
    public Acts Forbids { get; set; }

    /// <summary>When that was so.</summary>
    public Instant At { get; set; }

    /// <summary>Who did it or saw it.</summary>
    public Guid ById { get; set; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>What a machine must do to be moved.</summary>
public enum MotionKind
{
    /// <summary>It rolls or floats.</summary>
    Rolls,

    /// <summary>It steers.</summary>
    Steers,

    /// <summary>It brakes.</summary>
    Brakes,

    /// <summary>Its towing points hold.</summary>
    Towed,

    /// <summary>Its lifting points hold.</summary>
    Lifted,
}

/// <summary>What somebody said of one thing that a machine must do to be moved.</summary>
public class Motion
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>What it must do.</summary>
    public MotionKind Kind { get; init; }

    /// <summary>True when it does, false when it does not.</summary>
    public bool Works { get; set; }

    /// <summary>How they know, and with what limit.</summary>
    public string Note { get; set; } = string.Empty;

    /// <summary>The assembly that does it; what is off or loose in it speaks against it. Null when nobody named one.</summary>
    public Guid? PlaceId { get; set; }

    /// <summary>When that was said.</summary>
    public Instant At { get; set; }

    /// <summary>Who said so.</summary>
    public Guid ById { get; set; }
}

/// <summary>What closes over a place.</summary>
public enum ClosedWith
{
    /// <summary>A part: panel, skin, cover or door.</summary>
    Part,

    /// <summary>Paint.</summary>
    Paint,

    /// <summary>Filler.</summary>
    Filler,

    /// <summary>Fabric.</summary>
    Fabric,

    /// <summary>Lagging.</summary>
    Lagging,
}

/// <summary>A place that was closed: with what, by whom, and over what with whose concession.</summary>
public class Closing
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>The slot whose part closes, or the place that is coated or covered.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>With what.</summary>
    public ClosedWith With { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>Who closed it.</summary>
    public Guid ById { get; init; }

    /// <summary>What was open behind it then, one sentence each.</summary>
    public IReadOnlyList<string> Over { get; init; } = [];

    /// <summary>Why it was closed all the same; empty when nothing was open.</summary>
    public string Concession { get; init; } = string.Empty;

    /// <summary>The inspector who allowed it; null when nothing was open.</summary>
    public Guid? AllowedById { get; init; }

    /// <summary>When it was opened again; null while it is closed.</summary>
    public Instant? OpenedAt { get; set; }
}
