using System.Net;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using SkiaSharp;

namespace OilTag.Web.Tests;

/// <summary>Bad input gets a sentence beside the field, keeps what was typed, and changes nothing.</summary>
public sealed class BadInputTests(Shed shed) : IClassFixture<Shed>
{
    private const string Markup = "<script>alert(1)</script><b onmouseover=x>\"'&";

    private Task<long> LogLinesAsync() => shed.Database.ScalarAsync<long>("select count(*) from log_entries");

    [Fact]
    public async Task An_empty_strip_form_says_what_is_missing_beside_each_field()
    {
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/strip/take-off?m=M");
        var before = await LogLinesAsync();
        (await tobit.PostAsync("/strip/take-off?m=M", ("Orientation", "Long end up"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Beside("Name").ShouldStartWith("Say what it is");
        tobit.Beside("AssemblyId").ShouldBe("Say which assembly it comes from.");
        tobit.Beside("Reason").ShouldStartWith("Say why it comes off");
        tobit.Beside("Where").ShouldStartWith("Say where it is");
        tobit.Typed("Orientation").ShouldBe("Long end up");
        tobit.Page.QuerySelectorAll(".err li").Length.ShouldBe(4);
        (await LogLinesAsync()).ShouldBe(before);
    }

    [Theory]
    [InlineData("Reason", 301, "301 characters; 300 fit")]
    [InlineData("Orientation", 2000, "2,000 characters; 300 fit")]
    [InlineData("Name", 81, "81 characters; 80 fit")]
    public async Task Far_too_long_is_said_and_kept(string field, int length, string sentence)
    {
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/strip/take-off?m=M");
        var text = new string('a', length);
        await tobit.PostAsync("/strip/take-off?m=M", (field, text), (field == "Name" ? "Reason" : "Name", "x"));
        tobit.Beside(field).ShouldContain(sentence);
        tobit.Typed(field).ShouldBe(text);
    }

    [Theory]
    [InlineData("5 ton", "Which ton")]
    [InlineData("12", "Add the unit: kg or lb")]
    [InlineData("300 mm", "is a length; this asks for a weight")]
    [InlineData("-4 kg", "cannot be negative")]
    public async Task A_weight_that_cannot_be_meant_is_asked_about(string typed, string sentence)
    {
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/strip/take-off?m=M");
        await tobit.PostAsync("/strip/take-off?m=M", ("Weight", typed));
        tobit.Beside("Weight").ShouldContain(sentence);
        tobit.Typed("Weight").ShouldBe(typed);
    }

    [Theory]
    [InlineData("twelve", "", "whole numbers")]
    [InlineData("0", "", "Count the fasteners: 1 to 9999")]
    [InlineData("4", "5", "5 bad ones are more than the 4")]
    public async Task Fasteners_are_counted(string count, string bad, string sentence)
    {
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/strip/take-off?m=M");
        await tobit.PostAsync("/strip/take-off?m=M", ("FastenerWhat", "1/2 BSF stud"), ("FastenerCount", count), ("FastenerBad", bad));
        tobit.Beside("FastenerWhat").ShouldContain(sentence);
        tobit.Typed("FastenerCount").ShouldBe(count);
    }

    [Fact]
    public async Task A_part_that_is_off_does_not_come_off_again_and_what_was_off_first_must_exist()
    {
        using var tobit = await shed.AsAsync("tobit");
        var tag = await shed.FreeTagAsync("M");
        var slot = await shed.AskAsync(db => db.Tags.Where(t => t.Number == tag).Select(t => t.SlotId).SingleAsync());
        await tobit.OpenAsync("/strip/take-off?m=M");
        await tobit.PostAsync("/strip/take-off?m=M", ("SlotId", slot.ToString()), ("Reason", "again"), ("Where", "rack"), ("First", "99999, many"));
        tobit.Text.ShouldContain($"is off already, under tag {tag}");
        tobit.Beside("First").ShouldContain("“many” is not a tag number");
        await tobit.PostAsync("/strip/take-off?m=M", ("SlotId", slot.ToString()), ("Reason", "again"), ("Where", "rack"), ("First", "99999"));
        tobit.Beside("First").ShouldBe("There is no tag 99999 on this machine.");
    }

    [Theory]
    [InlineData("-3 mm", "8 mm", "6 mm", "Reading", "cannot be negative")]
    [InlineData("7.2", "8 mm", "6 mm", "Reading", "7.2 what? Add the unit")]
    [InlineData("7.2 kg", "8 mm", "6 mm", "Reading", "is a weight; this asks for a length")]
    [InlineData("7 bar", "8 mm", "6 mm", "Reading", "not a unit of length")]
    [InlineData("60 mil", "8 mm", "6 mm", "Reading", "thousandths of an inch or millimetres")]
    [InlineData("1,250 mm", "", "", "Reading", "one and a bit, or thousands")]
    [InlineData("7.2 mm", "8 mm", "9 mm", "Limit", "its limit lies below the size as built")]
    [InlineData("7.2 mm", "8 mm", "8 mm", "Limit", "nothing could wear")]
    [InlineData("0.283 mm", "7.2 mm", "6 mm", "Reading", "differ by 25.4")]
    [InlineData("9 mm", "8 mm", "6 mm", "Nominal", "more than a tenth thicker")]
    [InlineData("", "8 mm", "6 mm", "Reading", "no reading")]
    [InlineData("seven", "8 mm", "6 mm", "Reading", "Start with the number")]
    public async Task A_measure_that_cannot_be_is_asked_about_beside_its_field(string reading, string nominal, string limit, string field, string sentence)
    {
        using var dilys = await shed.AsAsync("dilys");
        var tag = await shed.FreeTagAsync("G");
        await dilys.OpenAsync($"/survey/new?tag={tag}");
        var before = await LogLinesAsync();
        (await dilys.PostAsync($"/survey/new?tag={tag}", ("What", "Thin"), ("Feature", "Thickness"), ("Reading", reading), ("Nominal", nominal), ("Limit", limit), ("LimitFor", "Display"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        dilys.Beside(field).ShouldContain(sentence);
        (dilys.Typed("Reading"), dilys.Typed("Nominal"), dilys.Typed("Limit"), dilys.Typed("What")).ShouldBe((reading, nominal, limit, "Thin"));
        (await LogLinesAsync()).ShouldBe(before);
    }

    [Fact]
    public async Task The_verdict_shows_while_it_is_typed_and_records_nothing()
    {
        using var dilys = await shed.AsAsync("dilys");
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Barrel").Select(p => p.Id).SingleAsync());
        await dilys.GetAsync($"/survey/verdict?place={place}&Feature=Thickness&Reading=5.7+mm&Nominal=8+mm&Limit=6+mm&LimitFor=Service");
        dilys.Text.ShouldContain("Beyond limit: 115 % of the allowed wear is used, 0.3");
        await dilys.GetAsync($"/survey/verdict?place={place}&Feature=Thickness&Reading=5.7&Nominal=8+mm&Limit=6+mm&LimitFor=Service");
        dilys.Text.ShouldContain("5.7 what?");
    }

    [Theory]
    [InlineData("25", "", "A day has 24 hours")]
    [InlineData("0", "", "more than nothing")]
    [InlineData("-2", "", "more than nothing")]
    [InlineData("a while", "", "Type the hours as a number")]
    [InlineData("2", "25:00", "Type the start as a clock time")]
    [InlineData("5", "22:00", "past midnight")]
    public async Task Hours_that_no_day_has_are_refused(string hours, string from, string sentence)
    {
        using var wilf = await shed.AsAsync("wilf");
        await wilf.OpenAsync("/today/hours");
        var job = wilf.Typed("job");
        (await wilf.PostAsync("/today/hours", ("HoursTyped", hours), ("From", from), ("job", job), ("On", wilf.Typed("On")))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        wilf.Page.QuerySelectorAll(".say").Select(s => s.TextContent).ShouldContain(s => s.Contains(sentence));
        (wilf.Typed("HoursTyped"), wilf.Typed("From"), wilf.Typed("job")).ShouldBe((hours, from, job));
    }

    [Fact]
    public async Task Overlapping_hours_and_more_than_a_day_in_all_are_refused()
    {
        using var wilf = await shed.AsAsync("wilf");
        await wilf.OpenAsync("/today/hours");
        var job = wilf.Typed("job");
        var on = HandClock.Day(-500);
        (await wilf.PostAsync("/today/hours", ("HoursTyped", "3"), ("From", "10:00"), ("job", job), ("On", on))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await wilf.PostAsync("/today/hours", ("HoursTyped", "2"), ("From", "12:30"), ("job", job), ("On", on));
        wilf.Beside("From").ShouldContain("overlaps with 10:00 for 3 h");
        (await wilf.PostAsync("/today/hours", ("HoursTyped", "2"), ("From", "13:00"), ("job", job), ("On", on))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await wilf.PostAsync("/today/hours", ("HoursTyped", "20"), ("job", job), ("On", on));
        wilf.Text.ShouldContain("5 h are booked on that day already");
    }

    [Theory]
    [InlineData("2999-01-01", "still to come")]
    [InlineData("1999-01-01", "more than two years ago")]
    [InlineData("someday", "does not fit here")]
    public async Task A_day_that_cannot_be_is_refused(string day, string sentence)
    {
        using var wilf = await shed.AsAsync("wilf");
        await wilf.OpenAsync("/today/hours");
        await wilf.PostAsync("/today/hours", ("Hours", "2"), ("job", wilf.Typed("job")), ("On", day));
        wilf.Beside("On").ShouldContain(sentence);
    }

    [Fact]
    public async Task A_part_cannot_be_promised_back_before_today()
    {
        using var tobit = await shed.AsAsync("tobit");
        var tag = await shed.FreeTagAsync("M");
        await tobit.OpenAsync($"/t/{tag}");
        await tobit.PostAsync($"/t/{tag}?handler=Move", ("Custody", "Away"), ("Where", "Farlow"), ("DueBack", "2020-01-01"), ("Seen", tobit.Typed("Seen")));
        tobit.Beside("DueBack").ShouldContain("before today");
        tobit.Typed("Where").ShouldBe("Farlow");
    }

    [Fact]
    public async Task A_count_cannot_exceed_the_pieces_made()
    {
        using var una = await shed.AsAsync("una");
        var finding = await shed.AskAsync(db => db.Findings.Where(f => f.TagId != null && !db.Decisions.Any(d => d.FindingId == f.Id)).OrderBy(f => f.Number).Select(f => f.Number).FirstAsync());
        await una.OpenAsync($"/f/{finding}");
        (await una.PostAsync($"/f/{finding}?handler=Decide", ("Disposition", "Remake"), ("Why", "Too far gone"), ("Left", "2"), ("Right", "0"), ("StartFrom", "Sheet formed"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var card = await shed.AskAsync(db => (from c in db.RouteCards.Include(c => c.Stages) join k in db.Packages on c.PackageId equals k.Id join f in db.Findings on k.FindingId equals f.Id where f.Number == finding select c).SingleAsync());
        using var tobit = await shed.AsAsync("tobit");
        var stages = card.Stages.OrderBy(s => s.Order).ToList();
        await tobit.OpenAsync($"/r/{card.Number}");
        (await tobit.PostAsync($"/r/{card.Number}?handler=Move", ("StageId", stages[1].Id.ToString()), ("Hand", "Left"), ("Pieces", "1"), ("Seen", "0"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("Only 0 of this hand are blank, so 1 cannot be formed.");
        for (var i = 0; i < card.Left; i++)
        {
            (await tobit.PostAsync($"/r/{card.Number}?handler=Move", ("StageId", stages[0].Id.ToString()), ("Hand", "Left"), ("Pieces", "1"), ("Seen", i.ToString(System.Globalization.CultureInfo.InvariantCulture)))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        }

        await tobit.PostAsync($"/r/{card.Number}?handler=Move", ("StageId", stages[0].Id.ToString()), ("Hand", "Left"), ("Pieces", "1"), ("Seen", card.Left.ToString(System.Globalization.CultureInfo.InvariantCulture)));
        tobit.Text.ShouldContain($"{card.Left} wanted and {card.Left} blanked");
        await tobit.PostAsync($"/r/{card.Number}?handler=Move", ("StageId", stages[0].Id.ToString()), ("Hand", "Left"), ("Pieces", "-1"), ("Seen", "0"));
        tobit.Text.ShouldContain("Somebody moved one meanwhile");
        await tobit.PostAsync($"/r/{card.Number}?handler=Move", ("StageId", stages[^1].Id.ToString()), ("Hand", "Left"), ("Pieces", "1"), ("Seen", "0"));
        tobit.Text.ShouldContain("counted when the part is put back on");
    }

    [Fact]
    public async Task A_part_that_is_not_ready_is_not_refitted()
    {
        using var tobit = await shed.AsAsync("tobit");
        var tag = await shed.AskAsync(db => (from t in db.Tags join k in db.Packages on t.Id equals k.TagId where t.End == null && k.ClosedAt == null select new { t.Number, Package = k.Number }).FirstAsync());
        await tobit.OpenAsync($"/t/{tag.Number}/refit");
        tobit.Text.ShouldContain($"Package {tag.Package} is not closed.");
        tobit.Page.QuerySelector("form[method=post] button.act").ShouldBeNull();
        (await tobit.PostAsync($"/t/{tag.Number}/refit", ("UseNew", "false"), ("Note", "forced"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Typed("Note").ShouldBe("forced");
        (await shed.AskAsync(db => db.Tags.Where(t => t.Number == tag.Number).Select(t => t.End).SingleAsync())).ShouldBeNull();
    }

    [Fact]
    public async Task A_package_with_open_steps_is_not_closed()
    {
        using var una = await shed.AsAsync("una");
        var number = await shed.AskAsync(db => db.Packages.Where(k => k.ClosedAt == null && k.Operations.Any(o => !o.Hold && o.DoneAt == null) && k.Operations.Any(o => o.Hold)).Select(k => k.Number).FirstAsync());
        await una.OpenAsync($"/w/{number}");
        (await una.PostAsync($"/w/{number}?handler=Close")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("is not lifted");
        una.Text.ShouldContain("Not done yet");
    }

    [Fact]
    public async Task A_place_cannot_hang_under_itself_or_under_what_hangs_under_it()
    {
        using var una = await shed.AsAsync("una");
        var boiler = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Boiler").SingleAsync());
        var barrel = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Barrel").Select(p => p.Id).SingleAsync());
        await una.OpenAsync($"/places/{boiler.Id}");
        await una.PostAsync($"/places/{boiler.Id}", ("Name", "Boiler"), ("Parent", barrel.ToString()), ("Version", una.Typed("Version")));
        una.Beside("Parent").ShouldContain("it would go round in a circle");
        await una.PostAsync($"/places/{boiler.Id}", ("Name", "Boiler"), ("Parent", boiler.Id.ToString()), ("Version", una.Typed("Version")));
        una.Beside("Parent").ShouldContain("cannot hang under itself");
        await una.PostAsync($"/places/{boiler.Id}", ("Name", ""), ("Position", "0"), ("Version", una.Typed("Version")));
        una.Beside("Name").ShouldContain("Give the place a name");
        una.Beside("Position").ShouldContain("1 to 999");
        await una.PostAsync($"/places/{boiler.Id}", ("Name", "Boiler"), ("Position", "many"), ("Version", una.Typed("Version")));
        una.Beside("Position").ShouldContain("“many” does not fit here");
    }

    [Fact]
    public async Task Markup_in_every_text_field_is_shown_as_text()
    {
        using var una = await shed.AsAsync("una");
        var barrel = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Barrel").Select(p => p.Id).SingleAsync());
        await una.OpenAsync("/strip/take-off?m=M");
        var taken = await una.PostAsync("/strip/take-off?m=M", ("Name", Markup), ("AssemblyId", barrel.ToString()), ("Reason", Markup), ("Orientation", Markup), ("Marks", Markup), ("FastenerWhat", Markup), ("FastenerCount", "4"), ("Custody", "Shelf"), ("Where", Markup));
        taken.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var tag = taken.Headers.Location!.ToString();
        await una.OpenAsync(tag);
        await una.OpenAsync($"/survey/new?tag={tag.Split('/')[^1]}");
        var logged = await una.PostAsync($"/survey/new?tag={tag.Split('/')[^1]}", ("What", Markup), ("Cause", Markup));
        var finding = logged.Headers.Location!.ToString();
        await una.OpenAsync(finding);
        var decided = await una.PostAsync($"{finding}?handler=Decide", ("Disposition", "Repair"), ("Why", Markup), ("Left", "1"), ("Right", "0"), ("Seen", ""));
        var package = decided.Headers.Location!.ToString();
        await una.OpenAsync(package);
        (await una.PostAsync($"{package}?handler=Cost", ("CostWhat", Markup), ("CostPounds", "4.50"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync(package);
        (await una.PostAsync($"{package}?handler=Edit", ("WaitingOn", Markup), ("EstimatePounds", "9"), ("Version", una.Typed("Version")))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync("/today/hours");
        (await una.PostAsync("/today/hours", ("Hours", "1"), ("job", package.Split('/')[^1]), ("On", una.Typed("On")), ("Note", Markup))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        foreach (var address in new[] { tag, finding, package, "/", "/machines/M", $"/places/{barrel}", "/strip", "/survey", "/work", "/log", "/today", "/jump?q=" + Uri.EscapeDataString(Markup[..30]) })
        {
            await una.OpenAsync(address);
            una.Html.ShouldNotContain("<script>alert", Case.Sensitive, address);
            una.Html.ShouldNotContain("<b onmouseover", Case.Sensitive, address);
            una.Page.QuerySelectorAll("script").ShouldAllBe(s => s.GetAttribute("src")!.StartsWith("/", StringComparison.Ordinal) && s.TextContent.Length == 0, address);
        }

        await una.GetAsync("/strip.csv");
        una.Html.ShouldContain("<script>");
    }

    [Fact]
    public async Task A_cell_that_looks_like_a_formula_does_not_run_in_a_spreadsheet()
    {
        using var una = await shed.AsAsync("una");
        var barrel = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Barrel").Select(p => p.Id).SingleAsync());
        await una.OpenAsync("/strip/take-off?m=M");
        (await una.PostAsync("/strip/take-off?m=M", ("Name", "=HYPERLINK(1)"), ("AssemblyId", barrel.ToString()), ("Reason", "x"), ("Custody", "Shelf"), ("Where", "@SUM(1)"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.GetAsync("/strip.csv");
        una.Html.ShouldContain("'=HYPERLINK");
        una.Html.ShouldNotContain(",=HYPERLINK");
        una.Html.ShouldNotContain(",@SUM");
    }

    [Fact]
    public async Task A_file_that_is_no_picture_and_a_picture_that_is_cut_short_are_refused_and_leave_nothing()
    {
        using var dilys = await shed.AsAsync("dilys");
        var number = await shed.AskAsync(db => db.Findings.Select(f => f.Number).FirstAsync());
        var (photos, files) = (await shed.AskAsync(db => db.Photos.CountAsync()), Directory.GetFiles(shed.PhotoFolder).Length);
        await dilys.OpenAsync($"/f/{number}");
        foreach (var (file, sentence) in new[]
        {
            ("MZ this is a program"u8.ToArray(), "not a photo that can be opened"),
            ("<svg onload='alert(1)'/>"u8.ToArray(), "not a photo that can be opened"),
            (Pictures.Jpeg(400, 300)[..900], "not a photo that can be opened"),
            (Pictures.Bomb(), "more than can be shown"),
            ([], "The file is empty. Take the photo again."),
        })
        {
            (await dilys.UploadAsync($"/f/{number}?handler=Photo", "photo.jpg", file, ("Caption", "kept"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, sentence);
            dilys.Text.ShouldContain(sentence);
            dilys.Typed("Caption").ShouldBe("kept");
        }

        (await shed.AskAsync(db => db.Photos.CountAsync())).ShouldBe(photos);
        Directory.GetFiles(shed.PhotoFolder).Length.ShouldBe(files);
    }

    [Fact]
    public async Task Forty_megabytes_get_their_sentence()
    {
        using var dilys = await shed.AsAsync("dilys");
        var number = await shed.AskAsync(db => db.Findings.Select(f => f.Number).FirstAsync());
        await dilys.OpenAsync($"/f/{number}");
        var file = new byte[40 * 1024 * 1024];
        Pictures.Jpeg(60, 40).CopyTo(file, 0);
        (await dilys.UploadAsync($"/f/{number}?handler=Photo", "large.jpg", file)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        dilys.Text.ShouldContain("The photo is 40 MB; 25 MB fit.");
        var tag = await shed.FreeTagAsync("G");
        await dilys.OpenAsync($"/survey/new?tag={tag}");
        (await dilys.UploadAsync($"/survey/new?tag={tag}", "large.jpg", file, ("What", "Seen in the photo"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        dilys.Typed("What").ShouldBe("Seen in the photo");
    }

    [Fact]
    public async Task A_place_in_the_metadata_is_not_kept_and_the_pixels_are()
    {
        var original = Pictures.JpegWithPlace(Pictures.Jpeg(320, 200));
        Pictures.HasPlace(original).ShouldBeTrue();
        using var dilys = await shed.AsAsync("dilys");
        var tag = await shed.FreeTagAsync("G", 1);
        await dilys.OpenAsync($"/survey/new?tag={tag}");
        var response = await dilys.UploadAsync($"/survey/new?tag={tag}", "photo.jpg", original, ("What", "With a photo"));
        await dilys.OpenAsync(response.Headers.Location!.ToString());
        var link = dilys.Page.QuerySelector(".photos a")!.GetAttribute("href")!;
        var kept = await dilys.Client.GetByteArrayAsync(link.Replace("/mark", string.Empty, StringComparison.Ordinal), TestContext.Current.CancellationToken);
        Pictures.HasPlace(kept).ShouldBeFalse();
        Pictures.Pixels(kept).ShouldBe(Pictures.Pixels(original));
        foreach (var file in Directory.GetFiles(shed.PhotoFolder))
        {
            Pictures.HasPlace(await File.ReadAllBytesAsync(file, TestContext.Current.CancellationToken)).ShouldBeFalse();
        }

        using var nobody = await shed.AsAsync(null);
        (await nobody.GetAsync(link)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
    }

    [Fact]
    public async Task The_jump_box_says_which_numbers_are_near()
    {
        using var una = await shed.AsAsync("una");
        (await una.GetAsync("/jump?q=66")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        una.Text.ShouldContain("No tag 66.");
        una.Page.QuerySelectorAll("a.tagno").Select(a => a.TextContent).ShouldBe(["67"]);
        foreach (var (typed, to) in new[] { ("67", "/t/67"), ("OT 67", "/t/67"), ("m67", "/t/67"), ("F1", "/f/1"), ("R1", "/r/1") })
        {
            (await una.GetAsync("/jump?q=" + Uri.EscapeDataString(typed))).Headers.Location!.ToString().ShouldBe(to);
        }

        foreach (var odd in new[] { "", "   ", "%", "_", "\\", "'; drop table tags; --", new string('9', 400), "F99999" })
        {
            ((int)(await una.GetAsync("/jump?q=" + Uri.EscapeDataString(odd))).StatusCode).ShouldBeLessThan(500, odd);
        }
    }

    [Fact]
    public async Task A_standard_of_an_assembly_changes_the_verdict_of_what_is_in_it()
    {
        using var una = await shed.AsAsync("una");
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Float" && p.Hand == Hand.Left).SingleAsync());
        async Task<string> VerdictAsync()
        {
            await una.GetAsync($"/survey/verdict?place={place.Id}&Feature=Thickness&Reading=0.94+mm&Nominal=1.63+mm&Limit=1.22+mm&LimitFor=Demonstrate");
            return una.Text;
        }

        (await VerdictAsync()).ShouldContain("beyond the limit for Demonstrate, but this is restored for Display");
        await una.OpenAsync($"/places/{place.Id}");
        (await una.PostAsync($"/places/{place.Id}", ("Name", "Float"), ("Hand", "Left"), ("Parent", place.ParentId.ToString()), ("Standard", "Demonstrate"), ("Version", una.Typed("Version")))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await VerdictAsync()).ShouldContain(VerdictRule.Word(Verdict.Beyond));
    }
}

/// <summary>Pictures made for the tests.</summary>
public static class Pictures
{
    /// <summary>The smallest whole PDF.</summary>
    public static byte[] Pdf() => "%PDF-1.4\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n2 0 obj<</Type/Pages/Kids[]/Count 0>>endobj\ntrailer<</Root 1 0 R>>\n%%EOF\n"u8.ToArray();

    public static byte[] Png(int width, int height)
    {
        using var bitmap = new SKBitmap(width, height);
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(SKColors.Olive);
        using var data = bitmap.Encode(SKEncodedImageFormat.Png, 90);
        return data.ToArray();
    }

    public static byte[] Jpeg(int width, int height)
    {
        using var bitmap = new SKBitmap(width, height);
        for (var y = 0; y < height; y++)
        {
            for (var x = 0; x < width; x++)
            {
                bitmap.SetPixel(x, y, new SKColor((byte)(x % 256), (byte)(y % 256), (byte)((x * y) % 256)));
            }
        }

        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 90);
        return data.ToArray();
    }

    /// <summary>A small file that claims to be a picture of 60,000 by 60,000 points.</summary>
    public static byte[] Bomb()
    {
        var file = Jpeg(64, 64);
        for (var i = 0; i < file.Length - 9; i++)
        {
            if (file[i] == 0xFF && file[i + 1] is 0xC0 or 0xC2)
            {
                (file[i + 5], file[i + 6], file[i + 7], file[i + 8]) = (0xEA, 0x60, 0xEA, 0x60);
                return file;
            }
        }

        throw new InvalidOperationException("No frame header.");
    }

    /// <summary>Puts an Exif segment with a latitude behind the start marker.</summary>
    public static byte[] JpegWithPlace(byte[] jpeg)
    {
        byte[] tiff =
        [
            (byte)'M', (byte)'M', 0, 42, 0, 0, 0, 8,
            0, 1, 0x88, 0x25, 0, 4, 0, 0, 0, 1, 0, 0, 0, 26, 0, 0, 0, 0,
            0, 2, 0, 1, 0, 2, 0, 0, 0, 2, (byte)'N', 0, 0, 0, 0, 2, 0, 5, 0, 0, 0, 3, 0, 0, 0, 56, 0, 0, 0, 0,
            0, 0, 0, 50, 0, 0, 0, 1, 0, 0, 0, 12, 0, 0, 0, 1, 0, 0, 0, 30, 0, 0, 0, 1,
        ];
        byte[] head = [.. "Exif\0\0"u8, .. tiff];
        var length = head.Length + 2;
        return [.. jpeg[..2], 0xFF, 0xE1, (byte)(length >> 8), (byte)length, .. head, .. jpeg[2..]];
    }

    public static bool HasPlace(byte[] file)
    {
        using var stream = new MemoryStream(file);
        return MetadataExtractor.ImageMetadataReader.ReadMetadata(stream).OfType<MetadataExtractor.Formats.Exif.GpsDirectory>().Any(d => d.TagCount > 0);
    }

    public static byte[] Pixels(byte[] file)
    {
        using var bitmap = SKBitmap.Decode(file);
        return bitmap.Bytes;
    }
}
