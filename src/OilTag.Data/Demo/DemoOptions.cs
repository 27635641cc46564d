using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Core.Work;

namespace OilTag.Data.Demo;

/// <summary>Options that were written down for findings of the demo, and a temporary repair that has come back.</summary>
public sealed partial class DemoSeeder
{
    private static readonly (Disposition Disposition, string What, double Cost, double Hours, double Weeks, int Original, string Skill)[] Ways =
    [
        (Disposition.Repair, "Build up, dress to size and fit again", 1, 1, 1, 90, "machinist"),
        (Disposition.Remake, "Make it new after the old one", 1.6, 1.9, 4, 0, "machinist"),
        (Disposition.Buy, "From the trade, overhaul and fitting included", 3.1, 0.5, 7, 0, string.Empty),
        (Disposition.TemporaryRepair, "Sleeve and shim it for the season", 0.25, 0.3, 0, 95, string.Empty),
    ];

    private void Options()
    {
        var dice = new Random(Seed);
        var sheet = db.Sheets.Local.Single(s => s.Number == 3);
        var chine = new Finding
        {
            Number = db.Findings.Local.Max(f => f.Number) + 1,
            MachineId = sheet.MachineId,
            PlaceId = sheet.PlaceId,
            What = "Pitting at the starboard chine, frames 9 to 13. Bilge water lay against the plate aft of the step.",
            Cause = "The bilge drain sits above the lowest point",
            Evidence = Evidence.Measured,
            Feature = Feature.Thickness,
            Reading = M("0.92 mm"),
            Nominal = M("1.63 mm"),
            Limit = M("0.80 mm"),
            LimitFor = RestorationStandard.Display,
            FoundById = P("Dilys Marrack").Id,
            FoundAt = At(SessionDay(61), 15, 10),
        };
        db.Findings.Add(chine);
        Say(chine.FoundAt, P("Dilys Marrack"), $"logged finding F{chine.Number}: {chine.What.TrimEnd('.')}. Measured 0.92 mm.", chine.MachineId, chine.PlaceId);
        var day = SessionDay(47);
        void Way(Finding f, Disposition d, string what, (double Low, double Likely, double High) pounds, (double Low, double Likely, double High) hours, double weeks, int original, string skill, string who)
        {
            var option = new FindingOption
            {
                FindingId = f.Id,
                Disposition = d,
                What = what,
                CostLow = (long)(pounds.Low * 100),
                CostLikely = (long)(pounds.Likely * 100),
                CostHigh = (long)(pounds.High * 100),
                HoursLow = hours.Low,
                HoursLikely = hours.Likely,
                HoursHigh = hours.High,
                Weeks = weeks,
                OriginalPercent = original,
                Skill = skill,
                ById = P(who).Id,
                At = At(day, 18, db.Options.Local.Count % 60),
            };
            db.Options.Add(option);
            Say(option.At, P(who), $"wrote down an option for F{f.Number}: {Dispositions.Word(d).ToLowerInvariant()}, {what}, {Money.Pounds(option.CostLikely)}.", f.MachineId, f.PlaceId, f.TagId);
        }

        Way(chine, Disposition.Repair, "Let in two doublers, 0.9 m; keep the plate", (300, 410, 620), (30, 38, 60), 5, 90, "rivets", "Elowen Trick");
        Way(chine, Disposition.Remake, "Roll a new S3 plate, frames 8 to 13", (900, 1280, 1800), (50, 64, 95), 9, 60, "sheet metal", "Elowen Trick");
        Way(chine, Disposition.Donor, "Cut from the second hull at Tarn slip, 1.41 mm at best", (100, 150, 300), (44, 52, 80), 6, 70, "rivets", "Dilys Marrack");
        Way(chine, Disposition.Buy, "Ready rolled, 2 weeks to fit", (1900, 2050, 2400), (18, 22, 34), 13, 60, string.Empty, "Jory Pascow");
        Way(chine, Disposition.Leave, "Clean, seal and keep dry", (20, 35, 60), (6, 8, 12), 0, 100, string.Empty, "Nell Garrow");

        var open = db.Findings.Local.Where(f => f.Reading is not null && f.TagId is not null && !db.Decisions.Local.Any(d => d.FindingId == f.Id)).OrderBy(f => f.Number).ToList();
        foreach (var f in open.SkipLast(1).Take(9))
        {
            var (cost, hours) = (40 + dice.Next(220), 6 + dice.Next(22));
            foreach (var w in Ways.Where((_, i) => i < 2 || dice.NextDouble() < 0.6))
            {
                var (pounds, h) = (Math.Round(cost * w.Cost / 5) * 5, Math.Round(hours * w.Hours));
                Way(f, w.Disposition, w.What, (Math.Round(pounds * 0.8), pounds, Math.Round(pounds * 1.6)), (Math.Max(1, Math.Round(h * 0.7)), Math.Max(1, h), Math.Max(2, Math.Round(h * 1.7))), w.Weeks, w.Original, w.Skill, Worker("M").Name);
            }
        }

        // Made to do for one season, and the season is over.
        var season = open[^1];
        var lead = P("Una Thorsby");
        var at = At(SessionDay(160), 19);
        db.Decisions.Add(new Decision { FindingId = season.Id, Disposition = Disposition.TemporaryRepair, Why = "Shimmed to run this season; the proper repair waits for the winter.", ReturnOn = today.PlusDays(-6), ById = lead.Id, At = at });
        Say(at, lead, $"settled F{season.Number} on temporary repair: shimmed to run this season.", season.MachineId, season.PlaceId, season.TagId);
    }
}
