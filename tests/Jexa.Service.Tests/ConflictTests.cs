namespace Jexa.Service.Tests;

/// <summary>Two people with the same record open: no order of two saves loses one.</summary>
public abstract class ConflictTests(EditApp app)
{
    [Fact]
    public async Task A_save_over_a_changed_record_shows_what_it_was_what_the_other_wrote_and_what_you_wrote()
    {
        var id = app.AddBridge("AV-2001", "Before");
        using var one = app.Visit();
        using var other = app.Visit();
        var mine = await one.FormAsync($"/bridges/{id}/edit");
        var theirs = await other.FormAsync($"/bridges/{id}/edit");
        Assert.Equal(
            303,
            (await other.PostAsync(theirs.With(("name", "Theirs"), ("district", "fen"), ("note", "their note")))).Status
        );

        var conflict = await one.PostAsync(mine.With(("name", "Mine"), ("length_m", "77")));
        Assert.Equal(409, conflict.Status);
        Assert.Equal("Theirs", app.Ask($"SELECT name FROM bridge WHERE bridge_id = {id}"));
        var page = conflict.Html;
        Assert.Contains(
            "Somebody else changed this bridge while you had it open, so nothing was saved yet.",
            page.QuerySelector(".notice[role=alert]")!.TextContent
        );
        Assert.Equal(["It was:Before", "Somebody else wrote:Theirs", "You wrote:Mine"], Clash(page, "name"));
        Assert.Equal(["It was:The Moor", "Somebody else wrote:The Fen"], Clash(page, "district"));
        Assert.Equal(["It was:nothing", "Somebody else wrote:their note"], Clash(page, "note"));
        Assert.Empty(Clash(page, "length_m"));

        // It must be chosen, and only where both wrote.
        var form = Visitor.FormOf(conflict);
        Assert.Equal(
            ["_jexa.choose.name"],
            page.QuerySelectorAll("input[type=radio]").Select(box => box.GetAttribute("name")).Distinct()
        );
        Assert.Equal(
            ("Mine", "fen", "their note", "77"),
            (form.Fields["name"], form.Fields["district"], form.Fields["note"], form.Fields["length_m"])
        );
        var undecided = await one.PostAsync(form);
        Assert.Equal(
            (422, "Name: Please choose which of the two values is to stay."),
            (undecided.Status, Assert.Single(undecided.Faults))
        );
        Assert.Equal(2, undecided.Html.QuerySelectorAll("input[type=radio]").Length);

        var saved = await one.PostAsync(Visitor.FormOf(undecided).With(("_jexa.choose.name", "theirs")));
        Assert.Equal(303, saved.Status);
        Assert.Equal(
            "Theirs|fen|their note|77",
            app.Ask($"SELECT name || '|' || district || '|' || note || '|' || length_m FROM bridge WHERE bridge_id = {id}")
        );
    }

    [Fact]
    public async Task Mine_can_stay_too_and_a_third_change_in_between_is_another_conflict()
    {
        var id = app.AddBridge("AV-2002", "Before");
        using var visitor = app.Visit();
        var mine = await visitor.FormAsync($"/bridges/{id}/edit");
        app.Do($"UPDATE bridge SET name = 'Second' WHERE bridge_id = {id}");
        var conflict = Visitor.FormOf(await visitor.PostAsync(mine.With(("name", "Mine"))));
        app.Do($"UPDATE bridge SET name = 'Third' WHERE bridge_id = {id}");
        var again = await visitor.PostAsync(conflict.With(("_jexa.choose.name", "mine")));
        Assert.Equal(409, again.Status);
        Assert.Equal(["It was:Second", "Somebody else wrote:Third", "You wrote:Mine"], Clash(again.Html, "name"));
        Assert.Equal(303, (await visitor.PostAsync(Visitor.FormOf(again).With(("_jexa.choose.name", "mine")))).Status);
        Assert.Equal("Mine", app.Ask($"SELECT name FROM bridge WHERE bridge_id = {id}"));
    }

    [Fact]
    public async Task Changes_to_different_fields_need_no_choice_but_are_shown()
    {
        var id = app.AddBridge("AV-2003", "Before");
        using var visitor = app.Visit();
        var mine = await visitor.FormAsync($"/bridges/{id}/edit");
        app.Do($"UPDATE bridge SET note = 'theirs' WHERE bridge_id = {id}");
        var conflict = await visitor.PostAsync(mine.With(("name", "Mine")));
        Assert.Equal((409, 0), (conflict.Status, conflict.Html.QuerySelectorAll("input[type=radio]").Length));
        Assert.Equal(["It was:nothing", "Somebody else wrote:theirs"], Clash(conflict.Html, "note"));
        Assert.Equal(303, (await visitor.PostAsync(Visitor.FormOf(conflict))).Status);
        Assert.Equal("Mine|theirs", app.Ask($"SELECT name || '|' || note FROM bridge WHERE bridge_id = {id}"));

        // What is in no field of the form is nobody's conflict; the same change by both is none either.
        mine = await visitor.FormAsync($"/bridges/{id}/edit");
        app.Do($"UPDATE bridge SET made_at = '2001-01-01 00:00:00' WHERE bridge_id = {id}");
        Assert.Equal(303, (await visitor.PostAsync(mine.With(("name", "Mine too")))).Status);
        mine = await visitor.FormAsync($"/bridges/{id}/edit");
        app.Do($"UPDATE bridge SET name = 'Same' WHERE bridge_id = {id}");
        var same = await visitor.PostAsync(mine.With(("name", "Same")));
        Assert.Equal((409, 0), (same.Status, same.Html.QuerySelectorAll("input[type=radio]").Length));
    }

    [Fact]
    public async Task A_version_column_tells_of_a_change_that_no_field_shows()
    {
        using var visitor = app.Visit();
        var mine = await visitor.FormAsync("/defects/1/edit");
        Assert.Equal(303, (await visitor.PostAsync((await visitor.FormAsync("/defects/1/edit")).With(("severity", "1")))).Status);
        Assert.Equal(303, (await visitor.PostAsync((await visitor.FormAsync("/defects/1/edit")).With(("severity", "3")))).Status);
        Assert.Equal("3|3", app.Ask("SELECT severity || '|' || version FROM defect"));
        var conflict = await visitor.PostAsync(mine.With(("said_by", "me")));
        Assert.Equal(
            (409, true),
            (conflict.Status, conflict.Body.Contains("Its version is another one", StringComparison.Ordinal))
        );
        Assert.Equal(303, (await visitor.PostAsync(Visitor.FormOf(conflict))).Status);
    }

    [Fact]
    public async Task A_secret_that_two_people_changed_is_a_conflict_that_shows_neither()
    {
        var id = app.AddBridge("AV-2004", "Before");
        using var visitor = app.Visit();
        var mine = await visitor.FormAsync($"/bridges/{id}/edit");
        app.Do($"UPDATE bridge SET pin = 'their-pin' WHERE bridge_id = {id}");
        var conflict = await visitor.PostAsync(mine.With(("pin", "my-pin")));
        Assert.Equal(409, conflict.Status);
        Assert.DoesNotContain("their-pin", conflict.Body);
        Assert.DoesNotContain("my-pin", conflict.Body);
        Assert.Equal(
            303,
            (await visitor.PostAsync(Visitor.FormOf(conflict).With(("_jexa.choose.pin", "mine"), ("pin", "my-pin")))).Status
        );
        Assert.Equal("my-pin", app.Ask($"SELECT pin FROM bridge WHERE bridge_id = {id}"));
    }

    [Fact]
    public async Task A_form_that_is_shown_again_writes_over_nothing_of_anybody_else_s()
    {
        var id = app.AddBridge("AV-2010", "Before");
        using var visitor = app.Visit();
        var form = await visitor.FormAsync($"/bridges/{id}/edit");
        Assert.Equal(303, (await visitor.PostAsync(form.With(("name", "First")))).Status);
        app.Do($"UPDATE bridge SET note = 'theirs' WHERE bridge_id = {id}");

        // The used form, sent again with other content: what it left alone stays as it is by now.
        var spent = await visitor.PostAsync(form.With(("name", "Second")));
        Assert.Equal((409, "theirs"), (spent.Status, Visitor.FormOf(spent).Fields["note"]));
        Assert.Equal(["It was:Before", "Somebody else wrote:First", "You wrote:Second"], Clash(spent.Html, "name"));
        Assert.Equal(303, (await visitor.PostAsync(Visitor.FormOf(spent).With(("_jexa.choose.name", "mine")))).Status);
        Assert.Equal("Second|theirs", app.Ask($"SELECT name || '|' || note FROM bridge WHERE bridge_id = {id}"));

        // Without its cookie, the same.
        form = await visitor.FormAsync($"/bridges/{id}/edit");
        app.Do($"UPDATE bridge SET note = 'theirs again' WHERE bridge_id = {id}");
        using var other = app.Visit();
        var shown = Visitor.FormOf(await other.PostAsync(form.With(("name", "Third"))));
        Assert.Equal(("Third", "theirs again"), (shown.Fields["name"], shown.Fields["note"]));
        Assert.Equal(303, (await other.PostAsync(shown)).Status);
        Assert.Equal("Third|theirs again", app.Ask($"SELECT name || '|' || note FROM bridge WHERE bridge_id = {id}"));

        // Where nobody can tell what it was made from, what was typed is shown, and nothing goes on from it.
        var unknown = await visitor.PostAsync(form.With(("name", "Fourth"), ("_jexa", "made-up")));
        Assert.Equal(
            (403, true, true),
            (
                unknown.Status,
                unknown.Html.QuerySelector("form.fill") is null,
                unknown.Html.QuerySelector(".record")!.TextContent.Contains("Fourth", StringComparison.Ordinal)
            )
        );
    }

    [Fact]
    public async Task A_long_text_is_compared_though_the_form_does_not_carry_it_twice()
    {
        app.Do($"INSERT INTO district VALUES ('long', 'Long', '{new string('w', 150_000)}')");
        using var visitor = app.Visit();
        var form = await visitor.FormAsync("/districts/long/edit");
        Assert.InRange(form.Fields["_jexa"].Length, 100, 4000);
        Assert.Equal(303, (await visitor.PostAsync(form.With(("name", "Longer")))).Status);
        form = await visitor.FormAsync("/districts/long/edit");
        app.Do("UPDATE district SET warden = warden || '!' WHERE slug = 'long'");
        var left = await visitor.PostAsync(form.With(("name", "Longest")));
        Assert.Equal((409, 0), (left.Status, left.Html.QuerySelectorAll("input[type=radio]").Length));
        Assert.Equal("It was:(a long text)", Clash(left.Html, "warden")[0]);
        Assert.Equal(303, (await visitor.PostAsync(Visitor.FormOf(left))).Status);
        Assert.Equal("150001", app.Ask("SELECT length(warden) FROM district WHERE slug = 'long'"));
        form = await visitor.FormAsync("/districts/long/edit");
        app.Do("UPDATE district SET warden = 'short now' WHERE slug = 'long'");
        var both = await visitor.PostAsync(form.With(("warden", "mine")));
        Assert.Equal((409, 2), (both.Status, both.Html.QuerySelectorAll("input[type=radio]").Length));
    }

    [Fact]
    public async Task A_record_deleted_meanwhile_is_said_to_be_gone_and_what_was_typed_stays_on_screen()
    {
        var id = app.AddBridge("AV-2005", "Before");
        using var visitor = app.Visit();
        var mine = await visitor.FormAsync($"/bridges/{id}/edit");
        Assert.Equal(303, (await visitor.PostAsync(await visitor.FormAsync($"/bridges/{id}/delete"))).Status);
        var gone = await visitor.PostAsync(mine.With(("name", "Typed at length"), ("district", "fen")));
        Assert.Equal(410, gone.Status);
        var typed = gone
            .Html.QuerySelectorAll(".record div")
            .Select(row => $"{row.QuerySelector("dt")!.TextContent}:{row.QuerySelector("dd")!.TextContent}")
            .ToList();
        Assert.Contains("Name:Typed at length", typed);
        Assert.Contains("District:The Fen", typed);

        const int other = 4321;
        app.Do($"INSERT INTO bridge (bridge_id, code, name, district) VALUES ({other}, 'AV-2006', 'Other', 'moor')");
        var form = await visitor.FormAsync($"/bridges/{other}/edit");
        app.Do($"DELETE FROM bridge WHERE bridge_id = {other}");
        var unknown = await visitor.PostAsync(form.With(("name", "Typed again")));
        Assert.Equal((404, true), (unknown.Status, unknown.Body.Contains("Typed again", StringComparison.Ordinal)));
    }

    [Fact]
    public async Task A_form_of_a_record_whose_key_was_changed_still_reaches_it()
    {
        app.Do("INSERT INTO district VALUES ('early', 'Early', NULL)");
        using var visitor = app.Visit();
        var mine = await visitor.FormAsync("/districts/early/edit");
        Assert.Equal(
            303,
            (await visitor.PostAsync((await visitor.FormAsync("/districts/early/edit")).With(("slug", "late")))).Status
        );
        var conflict = await visitor.PostAsync(mine.With(("name", "Renamed")));
        Assert.Equal((409, "/districts/late/edit"), (conflict.Status, Visitor.FormOf(conflict).Action));
        Assert.Equal(["It was:early", "Somebody else wrote:late"], Clash(conflict.Html, "slug"));
        Assert.Equal((303, "/districts/late"), ((await visitor.PostAsync(Visitor.FormOf(conflict))).Status, "/districts/late"));
        Assert.Equal("Renamed", app.Ask("SELECT name FROM district WHERE slug = 'late'"));
    }

    private static string[] Clash(AngleSharp.Html.Dom.IHtmlDocument page, string field) =>
        [
            .. page.QuerySelector($"#f-{field}")!
                .Closest(".field")!
                .QuerySelectorAll(".clash div")
                .Select(row => $"{row.QuerySelector("dt")!.TextContent}:{row.QuerySelector("dd")!.TextContent}"),
        ];
}
