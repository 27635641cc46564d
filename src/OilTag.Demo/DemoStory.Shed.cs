using NodaTime;
using OilTag.Core.Log;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Core.Today;
using OilTag.Core.Work;

namespace OilTag.Demo;

/// <summary>What the plan needs of the shed, its diary, and the few days since the story ended.</summary>
public sealed partial class DemoStory
{
    private sealed class EquipmentRow
    {
        public required string Name { get; init; }

        public required int Count { get; init; }

        public int? Away { get; init; }

        public int? From { get; init; }

        public int? Until { get; init; }

        public required string Why { get; init; }
    }

    private sealed class AbsenceRow
    {
        public required string Name { get; init; }

        public required int From { get; init; }

        public required int Until { get; init; }
    }

    private sealed class ChangeRow
    {
        public required int From { get; init; }

        public required int Until { get; init; }

        public required string Opens { get; init; }

        public required string Closes { get; init; }

        public required string Why { get; init; }

        public required string Site { get; init; }
    }

    private sealed class WindowRow
    {
        public required string Machine { get; init; }

        public required int From { get; init; }

        public required int Until { get; init; }

        public required string Why { get; init; }
    }

    private sealed class WeatherRow
    {
        public required int Month { get; init; }

        public required int Dry { get; init; }

        public required double Degrees { get; init; }
    }

    private sealed class HiddenRow
    {
        public required string Machine { get; init; }

        public required string At { get; init; }

        public required string Step { get; init; }

        public required string What { get; init; }

        public required int Percent { get; init; }

        public required double Low { get; init; }

        public required double Likely { get; init; }

        public required double High { get; init; }

        public required string Skill { get; init; }
    }

    private sealed class CallRow
    {
        public required string What { get; init; }

        public required int Day { get; init; }

        public required string From { get; init; }

        public required string Until { get; init; }

        public required int Wanted { get; init; }

        public required string Skill { get; init; }

        public required string Asked { get; init; }

        public required int DayAsked { get; init; }

        public required string Yes { get; init; }

        public required string Perhaps { get; init; }

        public required string No { get; init; }
    }

    private sealed class DiaryRow
    {
        public required string Machine { get; init; }

        public required int Day { get; init; }

        public required string Who { get; init; }

        public required string Text { get; init; }
    }

    private sealed class SinceRow
    {
        public required int Day { get; init; }

        public required string Who { get; init; }

        public required string Step { get; init; }

        public int? Minutes { get; init; }

        public required string Text { get; init; }
    }

    private static LocalTime Time(string text) =>
        LocalTime.FromTimeOnly(TimeOnly.ParseExact(text, "HH:mm", System.Globalization.CultureInfo.InvariantCulture));

    private void Shed()
    {
        Wishes();
        foreach (var e in StoryTable.Read<EquipmentRow>("equipment.csv"))
        {
            record.Add(new Equipment
            {
                Name = e.Name,
                Count = e.Count,
                Sizes = e.Name == "lathe" ? new Core.Make.MachineSizes(Swing: 0.36, Between: 0.9, Kilograms: 150)
                    : Core.Make.MachineSizes.None,
                Out = e.Away is { } n ? [new EquipmentOut(n, calendar.Date(e.From!.Value).ToDateOnly(),
                    calendar.Date(e.Until!.Value).ToDateOnly(), e.Why)] : [],
            });
        }

        foreach (var a in StoryTable.Read<AbsenceRow>("absences.csv"))
        {
            record.Add(new Absence { PersonId = P(a.Name).Id, From = calendar.Date(a.From), Until = calendar.Date(a.Until) });
        }

        foreach (var c in StoryTable.Read<ChangeRow>("calendar.csv"))
        {
            record.Add(new CalendarChange
            {
                From = calendar.Date(c.From),
                Until = calendar.Date(c.Until),
                Opens = c.Opens.Length > 0 ? Time(c.Opens) : null,
                Closes = c.Closes.Length > 0 ? Time(c.Closes) : null,
                Why = c.Why,
                Site = c.Site,
            });
        }

        foreach (var w in StoryTable.Read<WindowRow>("windows.csv").GroupBy(w => w.Machine))
        {
            machines[w.Key].Windows = [.. w.Select(x => new Core.Machines.MachineWindow(calendar.Date(x.From).ToDateOnly(),
                calendar.Date(x.Until).ToDateOnly(), x.Why))];
        }

        record.Add(new ShedSettings { OpenLimit = 6, FloorPence = 340 });
        record.Add(new Site
        {
            Months = [.. StoryTable.Read<WeatherRow>("weather.csv").Select(w => new MonthWeather(w.Dry / 100.0, w.Degrees, 3))],
        });
        record.Add(new Site { Name = "Old slipway" });
        foreach (var h in StoryTable.Read<HiddenRow>("hidden.csv"))
        {
            var (at, una) = (At(h.Machine, h.At), P("Una Thorsby"));
            record.Add(new HiddenDamage
            {
                PlaceId = at.Id,
                What = h.What,
                Percent = h.Percent,
                Low = h.Low,
                Likely = h.Likely,
                High = h.High,
                Skill = h.Skill,
                AfterId = Find<Operation>(h.Step).Id,
                ById = una.Id,
                At = AtTheEnd(-70, 25),
            });
            Say(AtTheEnd(-70, 25), una, ShedLog.Expects(h.Percent, at.FullName, h.What), at.MachineId, at.Id);
        }

        foreach (var c in StoryTable.Read<CallRow>("calls.csv"))
        {
            Call(c);
        }
    }

    private void Call(CallRow row)
    {
        var on = calendar.Date(row.Day);
        var call = record.Add(new CallOut
        {
            What = row.What,
            On = on,
            From = Time(row.From),
            Until = Time(row.Until),
            Wanted = row.Wanted,
            Skills = [new SkillNeed(row.Skill)],
            AskedById = P(row.Asked).Id,
            AskedAt = AtTheEnd(row.DayAsked, 30),
        });
        Say(call.AskedAt, P(row.Asked), ShedLog.Called(on, row.What));
        foreach (var (names, answer) in new[] { (row.Yes, CallAnswer.Yes), (row.Perhaps, CallAnswer.Perhaps), (row.No, CallAnswer.No) })
        {
            foreach (var name in StoryTable.Several(names))
            {
                record.Add(new CallReply
                {
                    CallOutId = call.Id,
                    PersonId = P(name).Id,
                    Answer = answer,
                    RecordedById = P(name).Id,
                    At = AtTheEnd(row.DayAsked + 3, 15),
                });
                Say(AtTheEnd(row.DayAsked + 3, 15), P(name), ShedLog.Answered(on));
            }
        }
    }

    private void Diary()
    {
        foreach (var d in StoryTable.Read<DiaryRow>("diary.csv"))
        {
            Say(AtTheEnd(d.Day, 36), P(d.Who), LogWords.Diary(d.Text), machines[d.Machine].Id);
        }
    }

    // A few lines of what was done between the story's last day and today.
    private void Since()
    {
        foreach (var row in StoryTable.Read<SinceRow>("since.csv").Where(r => calendar.Date(r.Day) < calendar.Today))
        {
            var (who, at) = (P(row.Who), AtTheEnd(row.Day, 38));
            if (row.Step.Length == 0)
            {
                Say(at, who, LogWords.Diary(row.Text));
                continue;
            }

            var package = Find<WorkPackage>(row.Step.Split('/')[0]);
            var operation = Find<Operation>(row.Step);
            record.Add(new HoursEntry
            {
                MachineId = package.MachineId,
                PackageId = package.Id,
                OperationId = operation.Id,
                PersonId = who.Id,
                On = calendar.Date(row.Day),
                From = IsSaturday(row.Day) ? new LocalTime(10, 0) : new LocalTime(18, 30),
                Minutes = row.Minutes!.Value,
                RecordedById = who.Id,
                At = at,
            });
            Say(at, who, WorkLog.Worked(row.Minutes.Value, package.Number, operation.Name), package.MachineId, package.PlaceId,
                package.TagId, package.Id);
        }
    }
}
