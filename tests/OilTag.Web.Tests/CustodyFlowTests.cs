using System.Globalization;
using System.Net;
using System.Text;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data.Machines;

namespace OilTag.Web.Tests;

/// <summary>Runs, papers, the unidentified tray, the outline of a machine, and where things are, through their pages.</summary>
public sealed class CustodyFlowTests(Shed shed) : IClassFixture<Shed>
{
    private static CancellationToken Ct => TestContext.Current.CancellationToken;

    private Task<string> LastLogAsync() => shed.AskAsync(db => db.LogEntries.OrderByDescending(l => l.Id).Select(l => l.Sentence).FirstAsync());

    private Task<Guid> AssemblyAsync(string letter, string name) => shed.AskAsync(db => (from p in db.Places join m in db.Machines on p.MachineId equals m.Id where m.Letter == letter && p.Kind == PlaceKind.Assembly && p.Name == name select p.Id).FirstAsync());

    private async Task<int> TakeOffAsync(Visitor who, string letter, string assembly, string name, params (string, string?)[] more)
    {
        await who.OpenAsync($"/strip/take-off?m={letter}");
        var answer = await who.PostAsync($"/strip/take-off?m={letter}", [.. more, ("AssemblyId", (await AssemblyAsync(letter, assembly)).ToString()), ("Name", name), ("Hand", "None"), ("Reason", "to reach what is behind it"), ("Custody", "Shelf"), ("Where", "rack Z8")]);
        answer.StatusCode.ShouldBe(HttpStatusCode.Redirect, who.Text);
        return int.Parse(answer.Headers.Location!.ToString()[3..], CultureInfo.InvariantCulture);
    }

    private Task<(Guid Slot, Guid Part)> OfTagAsync(int number) => shed.AskAsync(async db => await db.Tags.Where(t => t.Number == number).Select(t => new ValueTuple<Guid, Guid>(t.SlotId, t.PartId)).SingleAsync());

    [Fact]
    public async Task A_run_counts_for_the_way_in_and_for_closing()
    {
        using var una = await shed.AsAsync("una");
        var (cover, inside) = (await TakeOffAsync(una, "L", "Gear case", "Test cover"), await TakeOffAsync(una, "L", "Gear case", "Test shaft"));
        var (coverSlot, insideSlot) = ((await OfTagAsync(cover)).Slot, (await OfTagAsync(inside)).Slot);
        await una.OpenAsync($"/places/{insideSlot}/reach");
        (await una.PostAsync($"/places/{insideSlot}/reach?handler=Add", ("Chosen", coverSlot.ToString()), ("Way", "0"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync("/machines/L/runs");
        (await una.PostAsync("/machines/L/runs", ("RunName", "blue 4"), ("RunKind", "Wire"), ("State", "Unknown"), ("Ends", "T1 to T2"), ("Crosses", insideSlot.ToString()), ("Crosses", coverSlot.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await LastLogAsync()).ShouldBe("recorded the wire blue 4 as live or dead, nobody knows, across 2 places.");

        // Behind the cover nobody knows whether it is live: closing is stopped.
        await una.OpenAsync($"/t/{cover}/refit");
        una.Text.ShouldContain("Wire blue 4 crosses Test shaft, and nobody knows whether it is live or dead.");

        // The cover goes on for a trial; then it is in the way, and the run with it.
        (await una.PostAsync($"/t/{cover}/refit", ("Kind", "Trial"), ("UseNew", "false"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/places/{insideSlot}/reach");
        una.Text.ShouldContain("Runs in the way");
        una.Text.ShouldContain("Wire blue 4 is held by Test cover and is undone there, about 10 min assumed. Nobody knows whether it is live: treat it as live until it is proved dead.");
        una.Text.ShouldContain("assumed; nobody has timed it, and 10 min for the runs that it holds");
        await una.OpenAsync($"/places/{coverSlot}");
        una.Text.ShouldContain("Crossed by blue 4");

        // The same name again changes it; proved dead, it is not in the way of closing any more.
        await una.OpenAsync("/machines/L/runs?edit=blue+4");
        una.Typed("RunName").ShouldBe("blue 4");
        una.Typed("Ends").ShouldBe("T1 to T2");
        (await una.PostAsync("/machines/L/runs", ("RunName", "blue 4"), ("RunKind", "Wire"), ("State", "Dead"), ("UndoMinutes", "3"), ("Crosses", insideSlot.ToString()), ("Crosses", coverSlot.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/t/{cover}/refit");
        una.Text.ShouldNotContain("blue 4");
        (await shed.AskAsync(db => db.Runs.CountAsync(r => r.Name == "blue 4"))).ShouldBe(1);

        // What cannot be read stays as it was typed.
        (await una.PostAsync("/machines/L/runs", ("RunName", ""), ("Ends", "from here"), ("RunKind", "Pipe"), ("State", "Live"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Beside("RunName").ShouldContain("label or a name");
        una.Beside("Crosses").ShouldContain("at least one place");
        una.Typed("Ends").ShouldBe("from here");
    }

    [Fact]
    public async Task A_part_is_finally_fitted_only_with_its_papers()
    {
        using var una = await shed.AsAsync("una");
        var number = await TakeOffAsync(una, "L", "Gear case", "Test valve");
        var (slot, _) = await OfTagAsync(number);
        await una.OpenAsync($"/places/{slot}");
        (await una.PostAsync($"/places/{slot}", ("Name", "Test valve"), ("Hand", "None"), ("Parent", una.Typed("Parent")), ("Papers", "Certificate"), ("Papers", "TestReport"), ("Version", una.Page.QuerySelector("input[name=Version]")!.GetAttribute("value")))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/t/{number}/refit");
        una.Text.ShouldContain("Its certificate is not here. Add it under the tag.");
        una.Text.ShouldContain("Its test report is not here.");
        await una.OpenAsync($"/t/{number}/refit?Kind=Trial");
        una.Text.ShouldNotContain("certificate");

        await una.OpenAsync($"/t/{number}");
        (await una.UploadAsAsync("file", $"/t/{number}?handler=Paper", "cert.exe", "MZ not a paper"u8.ToArray(), ("PaperKind", "Certificate"), ("Title", "no. 3"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("no whole PDF, JPEG or PNG");
        una.Typed("Title").ShouldBe("no. 3");
        (await una.UploadAsAsync("file", $"/t/{number}?handler=Paper", "cert.pdf", Pictures.Pdf(), ("PaperKind", "Certificate"), ("Title", "no. 3 of the foundry"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await una.UploadAsAsync("file", $"/t/{number}?handler=Paper", "report.jpg", Pictures.JpegWithPlace(Pictures.Jpeg(300, 200)), ("PaperKind", "TestReport"), ("Title", "pressed to 300 psi"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/t/{number}");
        una.Text.ShouldContain("no. 3 of the foundry");
        una.Text.ShouldNotContain("it is not finally fitted without");

        // A paper is handed out as a file that cannot act; a photo of one says no longer where it was taken.
        foreach (var paper in await shed.AskAsync(db => db.Papers.Where(p => db.Tags.Any(t => t.Id == p.TagId && t.Number == number)).ToListAsync()))
        {
            var answer = await una.Client.GetAsync($"/papers/{paper.Id}", Ct);
            answer.Content.Headers.ContentDisposition!.DispositionType.ShouldBe("attachment");
            answer.Headers.GetValues("Content-Security-Policy").Single().ShouldContain("sandbox");
            Encoding.Latin1.GetString(await answer.Content.ReadAsByteArrayAsync(Ct)).ShouldNotContain("Exif");
        }

        using var nobody = await shed.AsAsync(null);
        (await nobody.GetAsync($"/papers/{await shed.AskAsync(db => db.Papers.Select(p => p.Id).FirstAsync())}")).Headers.Location!.ToString().ShouldContain("sign-in");
        await una.OpenAsync($"/t/{number}/refit");
        una.Text.ShouldContain("Nothing stands against it.");

        // A withdrawn one does not count; it stays on record.
        var certificate = await shed.AskAsync(db => db.Papers.Where(p => p.Title == "no. 3 of the foundry").Select(p => p.Id).SingleAsync());
        (await una.PostAsync($"/t/{number}?handler=Withdraw", ("PaperId", certificate.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/t/{number}/refit");
        una.Text.ShouldContain("Its certificate is not here.");
        await una.OpenAsync($"/t/{number}");
        una.Text.ShouldContain("withdrawn");
    }

    [Fact]
    public async Task Metal_that_is_bare_keeps_a_part_from_being_finally_fitted()
    {
        using var una = await shed.AsAsync("una");
        var number = await TakeOffAsync(una, "L", "Gear case", "Test plate");
        var (slot, _) = await OfTagAsync(number);
        await una.OpenAsync($"/places/{slot}/close");
        (await una.PostAsync($"/places/{slot}/close?handler=Surface", ("State", "Bare"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/t/{number}/refit");
        una.Text.ShouldContain("Test plate is not coated: bare since today.");
        await una.OpenAsync($"/places/{slot}/close");
        (await una.PostAsync($"/places/{slot}/close?handler=Surface", ("State", "Coated"), ("SurfaceWith", "grey enamel"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/t/{number}/refit");
        una.Text.ShouldContain("Nothing stands against it.");
    }

    [Fact]
    public async Task Bolts_of_different_lengths_are_drawn_and_a_part_that_was_off_already_has_no_place_in_the_order()
    {
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/strip/take-off?m=L");
        (await tobit.PostAsync("/strip/take-off?m=L", ("Name", "Test lid"), ("Reason", "came in a box"), ("Where", "rack Z8"), ("Bolts", "1-4 M8"), ("WasOff", "true"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Beside("Bolts").ShouldContain("a colon");
        tobit.Typed("Bolts").ShouldBe("1-4 M8");
        var number = await TakeOffAsync(tobit, "L", "Gear case", "Test lid", ("Bolts", "1-4, 7: M8 x 40\n5-6: M8 x 55"), ("WasOff", "true"), ("FastenerWhat", "1/2 BSF stud"), ("FastenerCount", "6"), ("FastenerBad", "2"), ("FastenerCondition", "Seized"));
        await tobit.OpenAsync($"/t/{number}");
        tobit.Text.ShouldContain("it never came off here; its tag was written by Tobit Crane");
        tobit.Text.ShouldContain("1/2 in, BSF, seized");
        tobit.Page.QuerySelector("svg.boltmap")!.GetAttribute("aria-label")!.ShouldContain("B, M8 x 55: 5, 6");
        (await LastLogAsync()).ShouldStartWith("wrote a tag for Test lid: to reach what is behind it.");
        await tobit.OpenAsync($"/t/{number}/refit");
        tobit.Page.QuerySelector("svg.boltmap").ShouldNotBeNull();
        var (slot, _) = await OfTagAsync(number);
        var access = await shed.AskAsync(async db => await Data.Strip.AccessQuery.LoadAsync(db, await db.Machines.Where(m => m.Letter == "L").Select(m => m.Id).SingleAsync(), Ct));
        access.Off.ShouldContain(slot);
        access.Strip.ContainsKey(slot).ShouldBeFalse();
    }

    [Fact]
    public async Task What_is_borrowed_and_lent_is_listed_by_the_day_on_which_it_is_due()
    {
        using var una = await shed.AsAsync("una");
        var number = await TakeOffAsync(una, "L", "Gear case", "Test gauge");
        var custody = await shed.AskAsync(db => db.Custodies.Where(c => c.Until == null && db.Tags.Any(t => t.Id == c.TagId && t.Number == number)).Select(c => c.Id).SingleAsync());
        await una.OpenAsync($"/t/{number}");
        (await una.PostAsync($"/t/{number}?handler=Describe", ("Provenance", "Original"), ("ReturnBy", "2031-05-01"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Beside("ReturnBy").ShouldContain("Only what is lent to us");
        (await una.PostAsync($"/t/{number}?handler=Describe", ("Provenance", "Lent"), ("FromWhom", "Penfold Yard"), ("ReturnBy", "2001-05-01"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await LastLogAsync()).ShouldBe("described it: lent to us, Penfold Yard, goes back by 1 May 2001.");
        await una.OpenAsync($"/t/{number}");
        (await una.PostAsync($"/t/{number}?handler=Move", ("Seen", custody.ToString()), ("Custody", "Person"), ("Where", "Gil at home"), ("DueBack", "2031-05-01"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await LastLogAsync()).ShouldBe("gave it to Gil at home to look after, promised back 1 May 2031.");
        await una.OpenAsync("/strip/where");
        var rows = una.Page.QuerySelectorAll("table").First().QuerySelectorAll("tbody tr").Select(r => r.TextContent).ToList();
        rows[0].ShouldContain($"{number} Test gauge");
        rows[0].ShouldContain("borrowed from Penfold Yard");
        rows[0].ShouldContain("overdue");
        rows.ShouldContain(r => r.Contains("with a person, Gil at home", StringComparison.Ordinal));
        (await shed.AskAsync(db => db.StorePlaces.SingleAsync(p => p.Name == "Gil at home"))).Kind.ShouldBe(StoreKind.Person);
    }

    [Fact]
    public async Task A_part_of_the_tray_is_known_and_its_number_becomes_the_tag()
    {
        using var una = await shed.AsAsync("una");
        var lost = await TakeOffAsync(una, "L", "Gear case", "Knurled thumb screw");
        var (slot, _) = await OfTagAsync(lost);
        await una.OpenAsync("/tray");
        (await una.PostAsync("/tray", ("Name", ""), ("Marks", "knurled"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Beside("Name").ShouldContain("looks like");
        una.Typed("Marks").ShouldBe("knurled");
        async Task<int> Found(string name)
        {
            await una.OpenAsync("/tray");
            var made = await una.PostAsync("/tray", ("Name", name), ("Letter", "L"), ("Hand", "None"), ("Where", "tray 9"));
            made.StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
            return int.Parse(made.Headers.Location!.ToString()[6..], CultureInfo.InvariantCulture);
        }

        var item = await Found("thumb screw, knurled");
        item.ShouldBe(lost + 1);
        (await una.GetAsync($"/jump?q={item}")).Headers.Location!.ToString().ShouldBe($"/tray/{item}");
        await una.OpenAsync($"/tray/{item}");
        una.Text.ShouldNotContain("Knurled thumb screw");

        // It is on the shelf, so it is not missing; only when nobody finds it does the tray propose it.
        (await una.PostAsync($"/tray/{item}?handler=Known", ("SlotId", slot.ToString()), ("Why", "it fits"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("and not missing");
        var custody = await shed.AskAsync(db => db.Custodies.Where(c => c.Until == null && db.Tags.Any(t => t.Id == c.TagId && t.Number == lost)).Select(c => c.Id).SingleAsync());
        await una.OpenAsync($"/t/{lost}");
        (await una.PostAsync($"/t/{lost}?handler=Move", ("Seen", custody.ToString()), ("Custody", "NotFound"), ("Where", "rack Z8"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/tray/{item}");
        una.Text.ShouldContain("Knurled thumb screw");
        una.Text.ShouldContain($"tag {lost} is looked for");
        (await una.PostAsync($"/tray/{item}?handler=Known", ("SlotId", slot.ToString()), ("Why", "it fits the thread"))).Headers.Location!.ToString().ShouldBe($"/t/{lost}", una.Text);
        (await shed.AskAsync(db => db.Custodies.SingleAsync(c => c.Until == null && db.Tags.Any(t => t.Id == c.TagId && t.Number == lost)))).Where.ShouldBe("tray 9");
        (await una.GetAsync($"/jump?q={item}")).Headers.Location!.ToString().ShouldBe($"/t/{lost}");

        // A second one, known for a slot that never had a tag: the parts book says that its part is missing.
        var assembly = await AssemblyAsync("L", "Gear case");
        var empty = await shed.AskAsync(async db =>
        {
            var machine = await db.Machines.Where(m => m.Letter == "L").Select(m => m.Id).SingleAsync();
            var place = new Place { MachineId = machine, ParentId = assembly, Kind = PlaceKind.Slot, Name = "Ratchet pawl", Order = 99 };
            db.Places.Add(place);
            db.BookLines.Add(new Core.Survey.BookLine { MachineId = machine, PlaceId = place.Id, Order = 999, Reference = "44-1", Name = "Ratchet pawl", State = Core.Survey.BookState.Missing });
            await db.SaveChangesAsync(Ct);
            return place.Id;
        });
        var pawl = await Found("ratchet paul");
        await una.OpenAsync($"/tray/{pawl}");
        una.Text.ShouldContain("Ratchet pawl");
        (await una.PostAsync($"/tray/{pawl}?handler=Known", ("SlotId", empty.ToString()), ("Why", "number 44-1"))).Headers.Location!.ToString().ShouldBe($"/t/{pawl}", una.Text);
        await una.OpenAsync($"/t/{pawl}");
        una.Text.ShouldContain("Ratchet pawl");
        (await una.PostAsync($"/tray/{pawl}?handler=Known", ("SlotId", empty.ToString()), ("Why", "again"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);

        // And one that nobody will know.
        var scrap = await Found("bent nail");
        await una.OpenAsync($"/tray/{scrap}");
        (await una.PostAsync($"/tray/{scrap}?handler=Go", ("GoneWhy", "a nail, scrapped"))).Headers.Location!.ToString().ShouldBe("/tray", una.Text);
        await una.OpenAsync("/tray");
        una.Text.ShouldNotContain("bent nail");
    }

    [Fact]
    public async Task A_lead_chooses_an_outline_ties_its_regions_and_brings_a_picture_of_their_own()
    {
        using var una = await shed.AsAsync("una");
        using var tobit = await shed.AsAsync("tobit");
        (await tobit.GetAsync("/machines/B/outline")).Headers.Location!.ToString().ShouldContain("not-allowed");
        var (door, roof) = (await AssemblyAsync("B", "Door"), await AssemblyAsync("B", "Roof boards"));
        await una.OpenAsync("/machines/B/outline");
        (await una.PostAsync("/machines/B/outline?handler=Choose", ("Drawing", "rocket"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await una.PostAsync("/machines/B/outline?handler=Choose", ("Drawing", "carriage"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync("/machines/B/outline");
        una.Page.QuerySelectorAll(".ties select").Length.ShouldBe(9);
        (await una.PostAsync("/machines/B/outline?handler=Tie", ("Regions", "doors"), ("Places", door.ToString()), ("Regions", "roof"), ("Places", door.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("stands beside two regions");
        (await una.PostAsync("/machines/B/outline?handler=Tie", ("Regions", "doors"), ("Places", door.ToString()), ("Regions", "roof"), ("Places", roof.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await shed.AskAsync(db => db.Places.Where(p => p.Id == door || p.Id == roof).OrderBy(p => p.Region).Select(p => p.Region).ToListAsync())).ShouldBe(["doors", "roof"]);

        // A drawing that acts is refused; a plain one is shown, and regions are drawn over it.
        async Task<HttpStatusCode> Bring(string svg) => (await una.UploadAsAsync("file", "/machines/B/outline?handler=Bring", "car.svg", Encoding.UTF8.GetBytes(svg))).StatusCode;
        (await Bring("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 200 100\"><script>alert(1)</script></svg>")).ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Beside("File").ShouldContain("Shapes and text only");
        (await Bring("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 200 100\"><rect width=\"200\" height=\"100\"/></svg>")).ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync("/machines/B/outline");
        var version = una.Page.QuerySelector("input[name=Version]")!.GetAttribute("value");
        (await una.PostAsync("/machines/B/outline?handler=Draw", ("PlaceId", door.ToString()), ("Corners", "10,10 20,10"), ("Version", version))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Typed("Corners").ShouldBe("10,10 20,10");
        (await una.PostAsync("/machines/B/outline?handler=Draw", ("PlaceId", door.ToString()), ("Corners", "10,10 40,10 40,90"), ("Version", version))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);

        // Somebody else drew meanwhile: an old page does not write over it.
        (await una.PostAsync("/machines/B/outline?handler=Draw", ("PlaceId", roof.ToString()), ("Corners", "10,10 40,10 40,20"), ("Version", version))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        var outline = await shed.AskAsync(db => db.Outlines.SingleAsync());
        foreach (var page in new[] { "/machines/B", "/" })
        {
            await una.OpenAsync(page);
            una.Page.QuerySelector($"svg image[href='/outlines/{outline.Id}']").ShouldNotBeNull(page);
        }

        var picture = await una.Client.GetAsync($"/outlines/{outline.Id}", Ct);
        picture.Content.Headers.ContentType!.MediaType.ShouldBe("image/svg+xml");
        picture.Headers.GetValues("Content-Security-Policy").Single().ShouldContain("sandbox");
        await una.OpenAsync("/machines/B/outline");
        (await una.PostAsync("/machines/B/outline?handler=Erase", ("Erase", "0"), ("Version", una.Page.QuerySelector("input[name=Version]")!.GetAttribute("value")))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await shed.AskAsync(db => db.Outlines.SingleAsync())).Regions.ShouldBeEmpty();

        // A photo takes its place; the drawing is gone with its file.
        (await una.UploadAsAsync("file", "/machines/B/outline?handler=Bring", "car.jpg", Pictures.Jpeg(400, 200))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await una.GetAsync($"/outlines/{outline.Id}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await una.PostAsync("/machines/B/outline?handler=Choose", ("Drawing", "liftcar"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
    }

    [Theory]
    [InlineData("<svg viewBox=\"0 0 1 1\"/>", "no SVG")]
    [InlineData("<svg xmlns=\"http://www.w3.org/2000/svg\"/>", "how large")]
    [InlineData("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\" onload=\"x()\"/>", "acts, moves, or loads")]
    [InlineData("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"><use href=\"http://elsewhere/x.svg#a\"/></svg>", "acts, moves, or loads")]
    [InlineData("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"><style>@import url(x.css)</style></svg>", "acts, moves, or loads")]
    [InlineData("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"><rect style=\"fill:url(http://x)\"/></svg>", "acts, moves, or loads")]
    [InlineData("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"><foreignObject/></svg>", "foreignObject")]
    [InlineData("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"><image href=\"#a\"/></svg>", "image")]
    [InlineData("<!DOCTYPE svg [<!ENTITY a \"b\">]><svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"/>", "cannot be read")]
    [InlineData("<svg", "cannot be read")]
    public void A_drawing_that_could_act_is_refused(string svg, string said) => SvgPicture.Check(Encoding.UTF8.GetBytes(svg)).Problem!.Sentence.ShouldContain(said);

    /// <summary>Drawings that are small as a file and would keep a browser busy for ever.</summary>
    public static TheoryData<string, string> Endless => new()
    {
        // 11 × 11 × 11 … of a few lines.
        { string.Concat(Enumerable.Range(1, 9).Select(i => $"<g id=\"g{i}\">{string.Concat(Enumerable.Repeat($"<use href=\"#g{i - 1}\"/>", 11))}</g>")) + "<rect id=\"g0\" width=\"1\" height=\"1\"/>", "repeats parts of itself" },
        { "<g id=\"a\"><use href=\"#b\"/></g><g id=\"b\"><use href=\"#a\"/></g>", "repeats parts of itself" },
        { "<g id=\"a\"><use xlink:href=\"#a\" xmlns:xlink=\"http://www.w3.org/1999/xlink\"/></g>", "repeats parts of itself" },
        { string.Concat(Enumerable.Range(1, 9).Select(i => $"<pattern id=\"p{i}\" width=\"1\" height=\"1\">{string.Concat(Enumerable.Repeat($"<rect fill=\"url(#p{i - 1})\"/>", 11))}</pattern>")) + "<pattern id=\"p0\"/><rect style=\"fill:url('#p9')\"/>", "repeats parts of itself" },
        { string.Concat(Enumerable.Range(0, 900).Select(i => $"<g id=\"c{i}\"><use href=\"#c{i + 1}\"/></g>")), "repeats parts of itself" },
        { string.Concat(Enumerable.Repeat("<g>", 250)) + string.Concat(Enumerable.Repeat("</g>", 250)), "groups in groups" },
        { string.Concat(Enumerable.Repeat("<g/>", 20_000)), "more than 20,000 shapes" },
        { "<style>rect{animation:x 1s infinite}</style>", "acts, moves" },
        { "<style>@keyframes x{}</style>", "acts, moves" },
        { "<rect style=\"filter:blur(900px)\"/>", "acts, moves" },
        { "<style>" + string.Concat(Enumerable.Repeat("rect g>*{fill:red}", 301)) + "</style>", "rules of style" },
        { "<pattern id=\"p\"/><style>rect{fill:url(#p)}</style>", "rules of style" },
    };

    [Theory]
    [MemberData(nameof(Endless))]
    public void A_drawing_that_would_not_end_is_refused(string inside, string said) =>
        SvgPicture.Check(Encoding.UTF8.GetBytes($"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\">{inside}</svg>")).Problem!.Sentence.ShouldContain(said);

    [Fact]
    public void A_quarter_of_a_million_nested_groups_are_refused_while_they_are_read()
    {
        var before = GC.GetAllocatedBytesForCurrentThread();
        SvgPicture.Check(Encoding.UTF8.GetBytes("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\">" + string.Concat(Enumerable.Repeat("<g>", 250_000)))).Problem!.Sentence.ShouldContain("groups in groups");
        (GC.GetAllocatedBytesForCurrentThread() - before).ShouldBeLessThan(10_000_000);
    }

    [Fact]
    public void Symbols_gradients_and_styles_of_an_honest_drawing_are_taken() => SvgPicture.Check(Encoding.UTF8.GetBytes(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 900 400\"><style>.a{fill:url(#l)} .b{stroke:#222}</style><defs><linearGradient id=\"l\"><stop offset=\"0\"/></linearGradient><symbol id=\"w\"><circle r=\"9\"/></symbol></defs>"
        + string.Concat(Enumerable.Repeat("<use href=\"#w\" class=\"a b\"/>", 200)) + "</svg>")).Size.ShouldBe((900, 400));

    [Fact]
    public void A_drawing_of_shapes_is_taken_with_its_size()
    {
        SvgPicture.Check("<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"120mm\" height=\"60.4\"><g fill=\"url(#a)\"><path d=\"M0 0\"/></g></svg>"u8.ToArray()).Size.ShouldBe((120, 60));
        SvgPicture.Check(new byte[SvgPicture.Largest + 1]).Problem!.Sentence.ShouldContain("2 MB");
    }
}
