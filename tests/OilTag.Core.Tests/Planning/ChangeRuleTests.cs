using NodaTime;
using OilTag.Core.Planning;
using static OilTag.Core.Tests.Planning.SmallShed;

namespace OilTag.Core.Tests.Planning;

public sealed class ChangeRuleTests
{
    private static readonly PlanInput Input = new()
    {
        Today = FirstDay,
        Sessions = [],
        People = [new PlanPerson { Id = "ada", Name = "Ada", Skills = [new PlanSkill("rivets")] }, new PlanPerson { Id = "ben", Name = "Ben" }],
        Machines = [new PlanMachine("M", "Marsh engine")],
        Packages = [new PlanPackage { Id = "7", Machine = "M", Title = "Retube" }],
        Operations = [new PlanOperation { Id = "o", Package = "7", Name = "Expand", Skills = [new SkillNeed("rivets")] }],
        Demands = [new PlanDemand { Id = "d", What = "tubes", Lead = DaysRange.Weeks(6, 10, 15) }],
        Milestones = [],
    };

    private static readonly LocalDate Later = FirstDay.PlusDays(60);

    [Fact]
    public void Each_kind_is_read()
    {
        Change(new() { Kind = "sessions", Day = "Sunday", From = "10:00", Until = "16:00", On = Later }).ShouldBe(new MoreSessions(IsoDayOfWeek.Sunday, new LocalTime(10, 0), new LocalTime(16, 0), new DaySpan(FirstDay, Later)));
        Change(new() { Kind = "holder", Person = "ben", Skill = "rivets" }).ShouldBe(new NewHolder("ben", "rivets"));
        Change(new() { Kind = "putoff", Package = "7", On = Later }).ShouldBe(new PutOff("7", Later));
        Change(new() { Kind = "fornow", Package = "7", Hours = "8", On = Later }).ShouldBe(new RepairForNow("7", new OilTag.Core.Work.HoursRange(6, 8, 12), Later));
        Change(new() { Kind = "shop", Demand = "d", Weeks = "5" }).ShouldBe(new FasterShop("d", DaysRange.Weeks(3, 5, 7.5)));
        Change(new() { Kind = "standing", Machine = "M", Standing = "Queued" }).ShouldBe(new OtherStanding("M", MachineStanding.Queued));
    }

    [Theory]
    [InlineData("sessions", "Day", "Someday")]
    [InlineData("sessions", "Day", "None")]
    [InlineData("sessions", "Until", "9:00")]
    [InlineData("sessions", "From", "early")]
    [InlineData("sessions", "On", null)]
    [InlineData("holder", "Person", "nobody")]
    [InlineData("holder", "Skill", "baking")]
    [InlineData("holder", "Person+", "ada")]
    [InlineData("putoff", "Package", "99")]
    [InlineData("putoff", "On", "past")]
    [InlineData("fornow", "Hours", "0")]
    [InlineData("fornow", "Hours", "many")]
    [InlineData("shop", "Demand", "x")]
    [InlineData("shop", "Weeks", "-2")]
    [InlineData("shop", "Weeks", "∞")]
    [InlineData("standing", "Machine", "Z")]
    [InlineData("standing", "Standing", "9")]
    [InlineData("other", "Kind", "other")]
    public void What_cannot_be_is_said_beside_its_field(string kind, string field, string? value)
    {
        var good = new ChangeEntry { Kind = kind, Day = "Sunday", From = "10:00", Until = "16:00", On = Later, Person = "ben", Skill = "rivets", Package = "7", Hours = "8", Demand = "d", Weeks = "5", Machine = "M", Standing = "Queued" };
        var bad = field switch
        {
            "Day" => good with { Day = value },
            "From" => good with { From = value },
            "Until" => good with { Until = value },
            "On" => good with { On = value is null ? null : FirstDay.PlusDays(-1) },
            "Person" or "Person+" => good with { Person = value },
            "Skill" => good with { Skill = value },
            "Package" => good with { Package = value },
            "Hours" => good with { Hours = value },
            "Demand" => good with { Demand = value },
            "Weeks" => good with { Weeks = value },
            "Machine" => good with { Machine = value },
            "Standing" => good with { Standing = value },
            _ => good,
        };
        var (change, problems) = ChangeRule.Read(bad, Input);
        change.ShouldBeNull();
        problems.ShouldHaveSingleItem().Field.ShouldBe(field == "Person+" ? "Skill" : field);
    }

    [Fact]
    public void Ten_in_ten_is_said_only_when_every_run_met_it()
    {
        SimulatedMilestone At(double chance) => new() { Id = "m", Chance = chance, ChanceError = 0, Even = new SimulatedDay(null, null, null), Safe = new SimulatedDay(null, null, null), Surer = new SimulatedDay(null, null, null), Spread = [], MeanDays = null, Drivers = [] };
        At(0.999).InTen.ShouldBe(9);
        At(1).InTen.ShouldBe(10);
        At(0.55).InTen.ShouldBe(6);
        At(0.04).InTen.ShouldBe(0);
    }

    private static PlanChange? Change(ChangeEntry entry) => ChangeRule.Read(entry, Input).Change;
}
