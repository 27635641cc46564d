using System.Net;
using System.Text;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.People;
using OilTag.Core.Strip;
using OilTag.Data.Strip;

namespace OilTag.Web.Tests;

/// <summary>Route cards through their pages: how a part is made, its first piece, what goes wrong, what it is made of, and the shops that help.</summary>
public sealed class CardFlowTests : IAsyncLifetime
{
    private readonly Shed shed = new();

    public async ValueTask InitializeAsync()
    {
        await shed.InitializeAsync();
        await TestCards.AddAsync(shed);
        shed.Clock.Set(10, 20);
    }

    public ValueTask DisposeAsync() => shed.DisposeAsync();

    private Task<int> NumberAsync(string part) => shed.AskAsync(db => db.RouteCards.Where(c => c.Part == part && c.SplitFromId == null).MaxAsync(c => c.Number));

    private Task<RouteCard> CardAsync(int number) => shed.AskAsync(db => db.RouteCards.AsNoTracking().Include(c => c.Stages).SingleAsync(c => c.Number == number));

    private async Task<int> CountAsync(int number, string stage, Hand hand, int item = 0)
    {
        var id = (await CardAsync(number)).Stages.Single(s => s.Name == stage).Id;
        return await shed.AskAsync(db => db.StageMoves.Where(m => m.StageId == id && m.Hand == hand && m.Item == item).SumAsync(m => m.Pieces));
    }

    private async Task<HttpResponseMessage> MoveAsync(Visitor who, int number, string stage, Hand hand, int pieces = 1, int item = 0, int? seen = null)
    {
        var id = (await CardAsync(number)).Stages.Single(s => s.Name == stage).Id;
        return await who.PostAsync($"/r/{number}?handler=Move", ("StageId", id.ToString()), ("Item", item.ToString()), ("Hand", hand.ToString()), ("Pieces", pieces.ToString()), ("Seen", (seen ?? await CountAsync(number, stage, hand, item)).ToString()));
    }

    [Fact]
    public async Task A_first_piece_is_measured_inspected_and_only_then_the_others_follow()
    {
        var n = await NumberAsync("Bow plate");
        using var dilys = await shed.AsAsync("dilys");
        await dilys.OpenAsync($"/r/{n}");
        dilys.Text.ShouldContain("Inspect the first one formed.");
        await dilys.OpenAsync("/make");
        var rows = dilys.Page.QuerySelectorAll(".cardrow").ToList();
        var at = rows.FindIndex(r => r.QuerySelector("h2")!.TextContent.Contains($"R{n} ", StringComparison.Ordinal));
        at.ShouldBeInRange(0, rows.Count - 2);
        rows.Take(at + 1).ShouldAllBe(r => r.TextContent.Contains("Inspect the first", StringComparison.Ordinal), "what an inspector holds up stands first");
        await dilys.OpenAsync($"/r/{n}");
        await MoveAsync(dilys, n, "Drilled", Hand.Left);
        dilys.Text.ShouldContain("Hold: what is formed is not inspected yet");
        (await CountAsync(n, "Drilled", Hand.Left)).ShouldBe(0);

        var card = await CardAsync(n);
        var formed = card.Stages.Single(s => s.Name == "Formed").Id.ToString();
        (string, string?)[] pass = [("StageId", formed), ("Line", "0-Left"), ("Passed", "true"), ("Note", "Flange even, no cracks")];
        using var corin = await shed.AsAsync("corin");
        await corin.OpenAsync($"/r/{n}/first");
        await corin.PostAsync($"/r/{n}/first", pass);
        corin.Text.ShouldContain("“Flange height” is not measured yet.");
        var dimension = card.Dimensions[0].Id.ToString();
        await dilys.PostAsync($"/r/{n}/first?handler=Read", ("Dimension", dimension), ("Line", "0-Left"), ("Value", "19 bananas"));
        dilys.Text.ShouldContain("Not recorded");
        await dilys.PostAsync($"/r/{n}/first?handler=Read", ("Dimension", dimension), ("Line", "0-Left"), ("Value", "20 mm"));
        await corin.PostAsync($"/r/{n}/first", pass);
        corin.Text.ShouldContain("outside 18.5 mm to 19.5 mm");
        await dilys.PostAsync($"/r/{n}/first?handler=Read", ("Dimension", dimension), ("Line", "0-Left"), ("Value", "19.1 mm"));
        await dilys.PostAsync($"/r/{n}/first", pass);
        dilys.Text.ShouldContain("An inspector passes a first piece.");
        (await corin.PostAsync($"/r/{n}/first", pass)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await MoveAsync(dilys, n, "Drilled", Hand.Left)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await CountAsync(n, "Drilled", Hand.Left)).ShouldBe(1);

        // The right one is another piece: its first is inspected as well.
        await MoveAsync(dilys, n, "Formed", Hand.Right);
        await MoveAsync(dilys, n, "Drilled", Hand.Right);
        dilys.Text.ShouldContain("not inspected yet");
    }

    [Fact]
    public async Task An_inspector_who_made_one_does_not_pass_it()
    {
        var n = await NumberAsync("Bow plate");
        using var corin = await shed.AsAsync("corin");
        await corin.OpenAsync($"/r/{n}");
        await MoveAsync(corin, n, "Formed", Hand.Right);
        var card = await CardAsync(n);
        await corin.PostAsync($"/r/{n}/first?handler=Read", ("Dimension", card.Dimensions[0].Id.ToString()), ("Line", "0-Right"), ("Value", "19 mm"));
        await corin.PostAsync($"/r/{n}/first", ("StageId", card.Stages.Single(s => s.Name == "Formed").Id.ToString()), ("Line", "0-Right"), ("Passed", "true"), ("Note", "good"));
        corin.Text.ShouldContain("You moved pieces into this stage.");
        (await shed.AskAsync(db => db.FirstOffs.CountAsync(f => card.Stages.Select(s => s.Id).Contains(f.StageId)))).ShouldBe(0);
    }

    [Fact]
    public async Task Scrap_takes_a_piece_off_every_stage_and_rework_sends_it_back()
    {
        var n = await NumberAsync("Track pad");
        using var una = await shed.AsAsync("una");
        await una.OpenAsync($"/r/{n}");
        await una.PostAsync($"/r/{n}?handler=Back", ("Line", "0-Left"), ("From", "4"), ("To", "0"), ("Why", " "));
        una.Beside("Why").ShouldContain("Say what is wrong");
        (await una.PostAsync($"/r/{n}?handler=Back", ("Line", "0-Left"), ("From", "4"), ("To", "0"), ("Why", "Cracked at the lug"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        foreach (var stage in (string[])["Blank", "Formed", "Drilled", "Finished"])
        {
            (await CountAsync(n, stage, Hand.Left)).ShouldBe(0, stage);
        }

        (await una.PostAsync($"/r/{n}?handler=Back", ("Line", "0-Right"), ("From", "4"), ("To", "2"), ("Why", "Flange low"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await CountAsync(n, "Formed", Hand.Right)).ShouldBe(1);
        (await CountAsync(n, "Drilled", Hand.Right)).ShouldBe(0);
        await una.OpenAsync($"/r/{n}");
        una.Text.ShouldContain("Scrapped when finished (left): Cracked at the lug");
        una.Text.ShouldContain("Sent back from finished (right): Flange low");
        await una.PostAsync($"/r/{n}?handler=Back", ("Line", "0-Left"), ("From", "4"), ("To", "0"), ("Why", "again"));
        una.Text.ShouldContain("No piece lies there finished");
        await una.PostAsync($"/r/{n}?handler=Back", ("Line", "9-Left"), ("From", "4"), ("To", "0"), ("Why", "again"));
        una.Text.ShouldContain("That piece is not on this card.");
    }

    [Fact]
    public async Task A_set_is_counted_part_by_part_and_some_are_split_off()
    {
        var n = await NumberAsync("Inspection cover");
        using var una = await shed.AsAsync("una");
        await una.OpenAsync($"/r/{n}?stage=1");
        una.Text.ShouldContain("Midships, left");
        await MoveAsync(una, n, "Blank", Hand.Left, item: 1);
        (await CountAsync(n, "Blank", Hand.Left, 1)).ShouldBe(1);
        await MoveAsync(una, n, "Blank", Hand.Left, item: 1, seen: 0);
        una.Text.ShouldContain("Somebody moved one meanwhile");
        await una.PostAsync($"/r/{n}?handler=Split", ("SplitLine", "1-Left"), ("SplitAt", "1"), ("HowMany", "2"));
        una.Text.ShouldContain("1 lies there.");
        var answer = await una.PostAsync($"/r/{n}?handler=Split", ("SplitLine", "1-Left"), ("SplitAt", "1"), ("HowMany", "1"));
        answer.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var split = int.Parse(answer.Headers.Location!.ToString()[3..], System.Globalization.CultureInfo.InvariantCulture);
        var (old, made) = (await CardAsync(n), await CardAsync(split));
        (old.Left, old.Items[1].Left, made.Left, made.Items.Single().Name).ShouldBe((4, 1, 1, "Midships"));
        (await CountAsync(n, "Blank", Hand.Left, 1)).ShouldBe(0);
        (await CountAsync(split, "Blank", Hand.Left)).ShouldBe(1);
        await una.OpenAsync($"/r/{split}");
        una.Text.ShouldContain($"split from R{n}");

        // The package waits for both.
        var package = await shed.AskAsync(db => db.RouteCards.Where(c => c.Number == n).Join(db.Packages, c => c.PackageId, k => k.Id, (c, k) => k.Number).SingleAsync());
        await una.OpenAsync($"/w/{package}");
        await una.PostAsync($"/w/{package}?handler=Close");
        una.Text.ShouldContain("10 pieces");
    }

    [Fact]
    public async Task A_lead_says_how_it_is_made_and_what_was_typed_stays_when_it_is_refused()
    {
        var n = await NumberAsync("Fusible plug");
        using var una = await shed.AsAsync("una");
        await una.OpenAsync($"/r/{n}/edit");
        var card = await CardAsync(n);
        List<(string, string?)> form = [("Seen", card.Version.ToString()), ("Part", "Fusible plug"), ("Material", "gunmetal"), ("Critical", "true"), ("Handed", "false"), ("Left", "4"), ("Items", ""), ("Dimensions", "Bore; 19 mm; 20 mm; Finished"), ("Tools", "Core box; 1")];
        foreach (var (s, i) in card.Stages.OrderBy(s => s.Order).Select((s, i) => (s, i)))
        {
            form.AddRange([($"Rows[{i}].Id", s.Id.ToString()), ($"Rows[{i}].Order", s.Order.ToString()), ($"Rows[{i}].Name", s.Name)]);
        }

        form.AddRange([("Rows[5].Order", "4.5"), ("Rows[5].Name", "Tested"), ("Rows[5].Minutes", "10 5 30"), ("Rows[5].FirstOff", "true")]);
        await una.PostAsync($"/r/{n}/edit", [.. form]);
        una.Text.ShouldContain("How many minutes does a piece take to be tested?");
        una.Typed("Material").ShouldBe("gunmetal");
        form[^2] = ("Rows[5].Minutes", "10 15 30");
        await una.PostAsync($"/r/{n}/edit", [.. form]);
        una.Text.ShouldNotContain("Keep the card first");
        var after = await CardAsync(n);
        after.Stages.OrderBy(s => s.Order).Select(s => s.Name).ShouldBe(["Blank", "Formed", "Drilled", "Finished", "Tested", "Fitted"]);
        (after.Left, after.Critical, after.Dimensions.Single().Stage, after.Tools.Single().Name).ShouldBe((4, true, 4, "Core box"));
        (await una.PostAsync($"/r/{n}/edit", [.. form])).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        una.Text.ShouldContain("Somebody changed this since you opened it.");

        // A stage that pieces have reached stays, and so do the pieces.
        form[0] = ("Seen", after.Version.ToString());
        form[5] = ("Left", "0");
        await una.PostAsync($"/r/{n}/edit", [.. form]);
        una.Beside("Left").ShouldContain("From 1 to");
        form[5] = ("Left", "4");
        form[form.FindIndex(f => f.Item1 == "Rows[1].Name")] = ("Rows[1].Name", "");
        await una.PostAsync($"/r/{n}/edit", [.. form]);
        una.Text.ShouldContain("Pieces have reached “Formed”");
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync($"/r/{n}/edit");
        (await tobit.PostAsync($"/r/{n}/edit", [.. form])).Headers.Location!.ToString().ShouldContain("not-allowed", Case.Insensitive);
    }

    [Fact]
    public async Task Evidence_has_versions_differences_are_decided_and_no_other_file_is_kept()
    {
        var n = await NumberAsync("Bow plate");
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync($"/r/{n}/evidence");
        tobit.Text.ShouldContain("Part and drawing: the best there is.");
        tobit.Text.ShouldContain("Nobody has decided.");
        var dxf = Encoding.ASCII.GetBytes("0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n");
        (await tobit.UploadAsAsync("file", $"/r/{n}/evidence", "plate.dxf", dxf, ("Kind", "Scan"), ("Title", "outline from the part"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var scan = (await CardAsync(n)).Evidence.Single(e => e.Title == "outline from the part");
        scan.At.ToUnixTimeSeconds().ShouldBeGreaterThan(1_600_000_000);
        (await tobit.UploadAsAsync("file", $"/r/{n}/evidence?handler=File", "plate2.dxf", dxf, ("evidence", scan.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var files = await shed.AskAsync(db => db.CardFiles.Where(f => f.EvidenceId == scan.Id).OrderBy(f => f.Order).ToListAsync());
        files.Select(f => (f.Order, f.Name)).ShouldBe([(1, "plate.dxf"), (2, "plate2.dxf")]);
        var got = await tobit.Client.GetAsync($"/drawings/{files[0].Id}", TestContext.Current.CancellationToken);
        (await got.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken)).ShouldBe(dxf);
        got.Headers.GetValues("Content-Security-Policy").Single().ShouldContain("sandbox");
        await tobit.UploadAsAsync("file", $"/r/{n}/evidence", "plate.dxf", Encoding.UTF8.GetBytes("<script>alert(1)</script>"), ("Kind", "Scan"), ("Title", "bad"));
        tobit.Text.ShouldContain("That is no whole PDF, JPEG, PNG, STL or DXF.");
        (await CardAsync(n)).Evidence.ShouldNotContain(e => e.Title == "bad");

        var conflict = (await CardAsync(n)).Conflicts.Single();
        using var una = await shed.AsAsync("una");
        await una.OpenAsync($"/r/{n}/evidence");
        (await una.PostAsync($"/r/{n}/evidence?handler=Decide", ("conflict", conflict.Id.ToString()), ("Decided", "19 mm: the part fits the frame"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync($"/r/{n}/evidence?handler=Decide", ("conflict", conflict.Id.ToString()), ("Decided", "16 mm after all"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await CardAsync(n)).Conflicts.Single().Decided.ShouldBe("19 mm: the part fits the frame");
    }

    [Fact]
    public async Task Pieces_of_a_pair_and_of_a_set_are_offered_where_their_own_tags_hang()
    {
        var pair = await CardAsync(await NumberAsync("Bow plate"));
        var plates = await shed.AskAsync(db => (from t in db.Tags join s in db.Places on t.SlotId equals s.Id where s.Name == "Bow plate" && t.End == null select new { t.Id, t.Number, s.Hand, Own = db.Packages.Any(k => k.Id == pair.PackageId && k.TagId == t.Id) }).ToListAsync());
        plates.Count(p => p.Own).ShouldBe(1);
        plates.ShouldContain(p => p.Hand == Hand.Right);
        foreach (var plate in plates)
        {
            var cards = await shed.AskAsync(db => StripWrites.CardsForAsync(db, plate.Id, default));
            cards.Select(c => (c.Card.Number, c.Own)).ShouldBe([(pair.Number, plate.Own)], $"{plate.Number}");
        }

        // Of a set, by the name of the part; a part of another name and a part of another machine are offered nothing.
        var set = await CardAsync(await NumberAsync("Inspection cover"));
        var places = await shed.AskAsync(db => db.Packages.Where(k => k.Id == set.PackageId).Select(k => new { k.MachineId, k.PlaceId }).SingleAsync());
        var parent = await shed.AskAsync(db => db.Places.Where(p => p.Id == places.PlaceId).Select(p => p.ParentId!.Value).SingleAsync());
        var other = await shed.AskAsync(db => db.Places.Where(p => p.MachineId != places.MachineId && p.Kind == PlaceKind.Assembly).Select(p => p.Id).FirstAsync());
        foreach (var (name, assembly, offered) in new[] { ("Midships", parent, true), ("midships", parent, true), ("Galley", parent, false), ("Midships", other, false) })
        {
            var id = await TagAsync(name, assembly);
            (await shed.AskAsync(db => StripWrites.CardsForAsync(db, id, default))).Any(c => c.Card.Id == set.Id).ShouldBe(offered, $"{name} {offered}");
        }

        async Task<Guid> TagAsync(string name, Guid assembly) => await shed.AskAsync(async db =>
        {
            var machine = await db.Places.Where(p => p.Id == assembly).Select(p => p.MachineId).SingleAsync();
            var slot = new Place { MachineId = machine, ParentId = assembly, Kind = PlaceKind.Slot, Name = name, Order = 900 };
            var part = new Part { MachineId = machine, Name = name };
            var tag = new Tag { MachineId = machine, SlotId = slot.Id, PartId = part.Id, OpenedAt = NodaTime.Instant.FromUtc(2026, 1, 1, 12, 0) };
            db.AddRange(slot, part, tag);
            await db.SaveChangesAsync();
            return tag.Id;
        });
    }

    [Fact]
    public async Task The_first_page_of_a_pdf_is_shown_to_those_who_may_see_the_card()
    {
        var n = await NumberAsync("Bow plate");
        using var una = await shed.AsAsync("una");
        var sheet = await (await una.Client.GetAsync("/bench/bend/template.pdf?thickness=1.2+mm&radius=3+mm&legs=19.5+%2B+60+%2B+19.5+mm&metal=6061-o", TestContext.Current.CancellationToken)).Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken);
        await una.OpenAsync($"/r/{n}/evidence");
        foreach (var (title, file) in new[] { ("blank as bent", sheet), ("no page in it", Pictures.Pdf()), ("only its ends are right", "%PDF-1.7\n<< /Length 99999999 /Filter [/FlateDecode /FlateDecode /FlateDecode] >> stream\n%%EOF\n"u8.ToArray()) })
        {
            (await una.UploadAsAsync("file", $"/r/{n}/evidence", "sheet.pdf", file, ("Kind", "Drawing"), ("Title", title))).StatusCode.ShouldBe(HttpStatusCode.Redirect, title);
        }

        await una.OpenAsync($"/r/{n}/evidence");
        var pictures = una.Page.QuerySelectorAll("img.evidence[src$='/page.png']").ToDictionary(i => i.GetAttribute("alt")!, i => i.GetAttribute("src")!);
        foreach (var (alt, status) in new[] { ("First page of blank as bent", HttpStatusCode.OK), ("First page of no page in it", HttpStatusCode.NotFound), ("First page of only its ends are right", HttpStatusCode.NotFound) })
        {
            (await una.Client.GetAsync(pictures[alt], TestContext.Current.CancellationToken)).StatusCode.ShouldBe(status, alt);
            (await una.Client.GetAsync(pictures[alt], TestContext.Current.CancellationToken)).StatusCode.ShouldBe(status, alt + ", again");
        }

        // A4 at 1400 points high, and the same from the kept one.
        foreach (var _ in Enumerable.Range(0, 2))
        {
            var page = await (await una.Client.GetAsync(pictures["First page of blank as bent"], TestContext.Current.CancellationToken)).Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken);
            using var png = SkiaSharp.SKBitmap.Decode(page);
            png.Height.ShouldBe(1400);
            ((double)png.Width / png.Height).ShouldBe(210.0 / 297, 0.002);
            png.Pixels.Count(p => p.Red < 100).ShouldBeGreaterThan(500);
        }

        // A shop sees it by its link, and not that of another card; nobody sees it without.
        var other = await NumberAsync("Fusible plug");
        await una.OpenAsync($"/r/{other}/evidence");
        await una.UploadAsAsync("file", $"/r/{other}/evidence", "sheet.pdf", sheet, ("Kind", "Drawing"), ("Title", "of another card"));
        await una.OpenAsync($"/r/{other}/evidence");
        var theirs = una.Page.QuerySelector("img.evidence[alt='First page of of another card']")!.GetAttribute("src")!;
        await una.OpenAsync($"/r/{n}/shop");
        await una.PostAsync($"/r/{n}/shop", ("LinkShop", "Crag End Platers"), ("LinkDays", "30"));
        var link = new Uri(una.Page.QuerySelector(".secret")!.TextContent.Trim()).AbsolutePath;
        using var shop = await shed.AsAsync(null);
        var mine = pictures["First page of blank as bent"];
        (await shop.Client.GetAsync(mine.Replace("/drawings", link, StringComparison.Ordinal), TestContext.Current.CancellationToken)).Content.Headers.ContentType!.MediaType.ShouldBe("image/png");
        (await shop.Client.GetAsync(theirs.Replace("/drawings", link, StringComparison.Ordinal), TestContext.Current.CancellationToken)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await shop.Client.GetAsync(mine, TestContext.Current.CancellationToken)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await shop.GetAsync(link);
        shop.Page.QuerySelectorAll("img.evidence").ShouldAllBe(i => i.GetAttribute("src")!.StartsWith(link, StringComparison.Ordinal));
    }

    [Fact]
    public async Task Another_material_on_a_critical_part_holds_until_an_inspector_agrees()
    {
        var n = await NumberAsync("Bow plate");
        using var dilys = await shed.AsAsync("dilys");
        await dilys.OpenAsync($"/r/{n}/material");
        await dilys.PostAsync($"/r/{n}/material", ("Specification", "5251-H22"), ("Form", "sheet 1.2 mm"), ("Heat", ""));
        dilys.Beside("Heat").ShouldContain("safety-critical");
        dilys.Page.QuerySelectorAll("p.acts a").Select(a => a.GetAttribute("href")).ShouldBe([$"/bench/bars?for=R{n}&pieces=2", $"/bench/sheets?for=R{n}&pieces=2"]);
        (await dilys.PostAsync($"/r/{n}/material", ("Specification", "5251-H22"), ("Form", "sheet 1.2 mm"), ("Heat", "B12"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var lot = await shed.AskAsync(db => db.MaterialLots.SingleAsync(l => l.Heat == "B12"));
        await dilys.PostAsync($"/r/{n}/material?handler=Cut", ("LotId", lot.Id.ToString()), ("CutPieces", "2"));
        dilys.Beside("Substitution").ShouldContain("Say why it will do");
        (await dilys.PostAsync($"/r/{n}/material?handler=Cut", ("LotId", lot.Id.ToString()), ("CutPieces", "2"), ("Substitution", "No other to be had"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await MoveAsync(dilys, n, "Formed", Hand.Right);
        dilys.Text.ShouldContain("an inspector has not agreed");
        var cut = await shed.AskAsync(db => db.MaterialCuts.SingleAsync(c => c.LotId == lot.Id));
        await dilys.PostAsync($"/r/{n}/material?handler=Agree", ("Cut", cut.Id.ToString()));
        dilys.Text.ShouldContain("An inspector agrees");
        using var corin = await shed.AsAsync("corin");
        await corin.OpenAsync($"/r/{n}/material");
        (await corin.PostAsync($"/r/{n}/material?handler=Agree", ("Cut", cut.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await MoveAsync(dilys, n, "Formed", Hand.Right)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await dilys.PostAsync($"/r/{n}/material?handler=Cut", ("LotId", lot.Id.ToString()), ("CutPieces", "1"), ("Substitution", "more"));
        dilys.Beside("CutPieces").ShouldContain("That leaves 0");
        (await dilys.PostAsync($"/r/{n}/material?handler=Cut", ("LotId", lot.Id.ToString()), ("CutPieces", "-1"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
    }

    [Fact]
    public async Task An_outside_shop_sees_one_card_reports_to_it_and_is_refused_anything_else()
    {
        var n = await NumberAsync("Bow plate");
        using var una = await shed.AsAsync("una");
        await una.OpenAsync($"/r/{n}/shop");
        await una.PostAsync($"/r/{n}/shop", ("LinkShop", "Nobody Ltd"), ("LinkDays", "0"));
        una.Text.ShouldContain("No stage of this card is done there.");
        await una.PostAsync($"/r/{n}/shop", ("LinkShop", "Crag End Platers"), ("LinkDays", "30"));
        var secret = una.Page.QuerySelector(".secret")!.TextContent.Trim()[^40..];
        (await shed.AskAsync(db => db.ShopLinks.CountAsync(l => l.Hash == LinkSecret.HashOf(secret)))).ShouldBe(1);
        await una.PostAsync($"/r/{n}/shop?handler=Ask", ("AskShop", "Crag End Platers"), ("Ask", "Do you mask the bore?"));

        using var shop = await shed.AsAsync(null);
        await shop.GetAsync($"/shop/{secret}");
        shop.Text.ShouldContain("Bow plate");
        shop.Text.ShouldContain("Do you mask the bore?");
        shop.Page.QuerySelector("nav.tblock").ShouldBeNull();
        var card = await CardAsync(n);
        var (finished, drilled) = (card.Stages.Single(s => s.Name == "Finished").Id.ToString(), card.Stages.Single(s => s.Name == "Drilled").Id.ToString());
        await shop.PostAsync($"/shop/{secret}", ("StageId", drilled), ("Hand", "Left"), ("Pieces", "1"), ("Seen", "0"));
        shop.Text.ShouldContain("That stage is not done at your shop.");
        await shop.PostAsync($"/shop/{secret}", ("StageId", finished), ("Hand", "Left"), ("Pieces", "1"), ("Seen", "0"));
        shop.Text.ShouldContain("so 1 cannot be finished");
        var question = await shed.AskAsync(db => db.ShopNotes.SingleAsync());
        (await shop.PostAsync($"/shop/{secret}?handler=Say", ("Answers", question.Id.ToString()), ("Text", "Yes, with <b>wax</b>"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync($"/r/{n}/shop");
        una.Text.ShouldContain("Yes, with <b>wax</b>");
        una.Text.ShouldContain("1 time, last");

        // Another card's link opens nothing of this one, nor does any page of the shed.
        var other = await NumberAsync("Track pad");
        foreach (var path in (string[])[$"/r/{n}", $"/r/{other}", "/make", "/", $"/drawings/{Guid.NewGuid()}", "/people"])
        {
            (await shop.GetAsync(path)).Headers.Location?.ToString().ShouldContain("sign-in", Case.Insensitive, path);
        }

        (await shop.GetAsync($"/shop/{secret}/{Guid.NewGuid()}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await shop.GetAsync($"/shop/{new string('0', 40)}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        await shop.GetAsync($"/shop/{secret}");
        var link = await shed.AskAsync(db => db.ShopLinks.SingleAsync(l => l.Hash == LinkSecret.HashOf(secret)));
        (await una.PostAsync($"/r/{n}/shop?handler=Revoke", ("Link", link.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shop.PostAsync($"/shop/{secret}", ("StageId", finished), ("Hand", "Left"), ("Pieces", "1"), ("Seen", "0"))).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await shop.GetAsync($"/shop/{secret}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task What_a_shop_has_done_counts_and_stands_in_the_log()
    {
        var n = await NumberAsync("Track pad");
        using var una = await shed.AsAsync("una");
        await una.OpenAsync($"/r/{n}/edit");
        var card = await CardAsync(n);
        List<(string, string?)> form = [("Seen", card.Version.ToString()), ("Part", card.Part), ("Handed", "true"), ("Left", "1"), ("Right", "1")];
        foreach (var (s, i) in card.Stages.OrderBy(s => s.Order).Select((s, i) => (s, i)))
        {
            form.AddRange([($"Rows[{i}].Id", s.Id.ToString()), ($"Rows[{i}].Order", s.Order.ToString()), ($"Rows[{i}].Name", s.Name), ($"Rows[{i}].Shop", s.Name == "Finished" ? "Crag End Platers" : "")]);
        }

        (await una.PostAsync($"/r/{n}/edit", [.. form])).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.PostAsync($"/r/{n}/shop", ("LinkShop", "Crag End Platers"), ("LinkDays", "30"));
        var secret = una.Page.QuerySelector(".secret")!.TextContent.Trim()[^40..];
        var finished = card.Stages.Single(s => s.Name == "Finished").Id.ToString();
        using var shop = await shed.AsAsync(null);
        await shop.GetAsync($"/shop/{secret}");
        var key = Guid.CreateVersion7();
        (string, string?)[] back = [("StageId", finished), ("Hand", "Left"), ("Pieces", "-1"), ("Seen", "1")];
        (await shop.SendAsync($"/shop/{secret}", key, back)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await shop.SendAsync($"/shop/{secret}", key, back);
        (await CountAsync(n, "Finished", Hand.Left)).ShouldBe(0);
        (await shop.PostAsync($"/shop/{secret}", ("StageId", finished), ("Hand", "Left"), ("Pieces", "1"), ("Seen", "0"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await CountAsync(n, "Finished", Hand.Left)).ShouldBe(1);
        (await shed.AskAsync(db => db.LogEntries.OrderBy(l => l.Id).Select(l => l.Sentence).LastAsync())).ShouldBe($"reported by a link: one left piece of R{n} to finished.");
        (await shed.AskAsync(db => db.LogEntries.OrderBy(l => l.Id).Join(db.People, l => l.PersonId, p => p.Id, (l, p) => p.Name).LastAsync())).ShouldBe("Crag End Platers");

        // The counts are the shop's; whoever gave it the link has not worked on it by that, and may still inspect it.
        (await shed.AskAsync(db => (from m in db.StageMoves join p in db.People on m.ById equals p.Id where m.Kind == MoveKind.Shop && db.Stages.Any(s => s.Id == m.StageId && s.RouteCardId == card.Id) select p.Name).Distinct().ToListAsync())).ShouldBe(["Crag End Platers"]);
        var lead = await shed.AskAsync(db => db.People.Where(p => p.Name == "Una Thorsby").Select(p => p.Id).SingleAsync());
        (await shed.AskAsync(db => db.StageMoves.AnyAsync(m => m.ById == lead && m.Kind == MoveKind.Shop))).ShouldBeFalse();
    }

    [Fact]
    public async Task Hours_that_the_counts_foresee_go_into_the_plan()
    {
        var n = await NumberAsync("Bow plate");
        using var una = await shed.AsAsync("una");
        await una.OpenAsync($"/r/{n}");
        una.Text.ShouldContain("for the rest of it here");
        (await una.PostAsync($"/r/{n}?handler=Foresee")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var package = await shed.AskAsync(db => db.RouteCards.Where(c => c.Number == n).Select(c => c.PackageId).SingleAsync());
        var open = await shed.AskAsync(db => db.Operations.Where(o => o.PackageId == package && o.DoneAt == null && !o.Hold).ToListAsync());

        // One right to form: 60 + 110 min less the set-up, which the left one had; two to drill: 15 + 2 · 33.3 min. Finishing is the shop's.
        open.Sum(o => o.Likely).ShouldBe((110 + 15 + (2 * 100 / 3.0)) / 60, 0.01);
        open.Sum(o => o.Left ?? 0).ShouldBe(open.Sum(o => o.Likely), 1e-9);
    }
}
