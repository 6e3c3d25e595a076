using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>Edit, new and delete pages as a browser without scripts uses them, over HTTP, the database looked at after.</summary>
public abstract class EditTests(EditApp app)
{
    [Theory]
    [InlineData("/bridges/999/edit", 404)]
    [InlineData("/bridges/4/edit", 404)]
    [InlineData("/bridges/abc/edit", 400)]
    [InlineData("/bridges/001/edit", 301)]
    [InlineData("/bridges/1/edit", 200)]
    [InlineData("/bridges/999/delete", 404)]
    [InlineData("/bridges//edit", 302)]
    public async Task Every_outcome_of_an_ID_holds_for_forms(string path, int status)
    {
        using var visitor = app.Visit();
        var reply = await visitor.GetAsync(path);
        Assert.Equal(status, reply.Status);
        if (status == 302)
            Assert.Equal("/bridges/new?lacking=bridge-edit.id", reply.Location);
        if (status == 200)
            Assert.Equal("no-store", reply.Headers.CacheControl!.ToString());
    }

    [Fact]
    public async Task The_form_is_made_of_schema_and_app_file()
    {
        using var visitor = app.Visit();
        var form = (await visitor.FormAsync("/bridges/1/edit")).Document;
        Assert.Equal("Edit First", form.QuerySelector("h1")!.TextContent);
        Assert.StartsWith("Edit First", form.Title);
        Assert.Equal(
            ["name", "code", "district", "status", "length_m", "toll", "lit", "opened_on", "seen_at", "note", "pin"],
            form.QuerySelectorAll(".field [id^=f-]").Where(e => e.HasAttribute("name")).Select(e => e.GetAttribute("name"))
        );
        var code = form.QuerySelector("#f-code")!;
        Assert.Equal(
            ("AV-[0-9]{4}", "AV-0001", true),
            (code.GetAttribute("pattern"), code.GetAttribute("value"), code.HasAttribute("required"))
        );
        var length = form.QuerySelector("#f-length_m")!;
        Assert.Equal(
            ("number", "0.1", "0.5", "900", "12.5"),
            (
                length.GetAttribute("type"),
                length.GetAttribute("step"),
                length.GetAttribute("min"),
                length.GetAttribute("max"),
                length.GetAttribute("value")
            )
        );
        Assert.Equal(
            ["open", "closed", "withdrawn"],
            form.QuerySelectorAll("#f-status option").Select(o => o.GetAttribute("value"))
        );
        Assert.Equal(
            ["fen", "moor"],
            form.QuerySelectorAll("#f-district option")
                .Select(o => o.GetAttribute("value"))
                .Intersect(["fen", "moor", "hidden"])
                .Order()
        );
        Assert.Equal("checkbox", form.QuerySelector("#f-toll")!.GetAttribute("type"));
        Assert.Equal(["", "true", "false"], form.QuerySelectorAll("#f-lit option").Select(o => o.GetAttribute("value")));
        Assert.Equal("date", form.QuerySelector("#f-opened_on")!.GetAttribute("type"));

        // Moments are kept in UTC and shown, and asked for, in the app's zone.
        Assert.Equal(
            ("datetime-local", "2024-07-01T13:00"),
            (form.QuerySelector("#f-seen_at")!.GetAttribute("type"), form.QuerySelector("#f-seen_at")!.GetAttribute("value"))
        );
        Assert.Equal(
            ("TEXTAREA", "50"),
            (form.QuerySelector("#f-note")!.TagName, form.QuerySelector("#f-note")!.GetAttribute("maxlength"))
        );
        Assert.Equal(
            ("password", ""),
            (form.QuerySelector("#f-pin")!.GetAttribute("type"), form.QuerySelector("#f-pin")!.GetAttribute("value"))
        );
        Assert.DoesNotContain("a-pin-of-its-own", form.DocumentElement.OuterHtml);
    }

    [Fact]
    public async Task A_save_reaches_exactly_that_record_says_so_once_and_leads_to_its_page()
    {
        var id = app.AddBridge("AV-1001");
        var others = app.Ask($"SELECT group_concat(name) FROM bridge WHERE bridge_id <> {id}");
        using var visitor = app.Visit();
        var form = await visitor.FormAsync($"/bridges/{id}/edit");
        var reply = await visitor.PostAsync(
            form.With(
                ("name", "Named anew"),
                ("length_m", "12.50"),
                ("toll", "true"),
                ("lit", "false"),
                ("opened_on", "2001-02-03"),
                ("seen_at", "2024-07-01T13:30")
            )
        );
        Assert.Equal((303, $"/bridges/{id}"), (reply.Status, reply.Location));
        Assert.Equal(
            "Named anew|12.5|real|1|0|2001-02-03|2024-07-01 12:30:00",
            app.Ask(
                "SELECT name || '|' || length_m || '|' || typeof(length_m) || '|' || toll || '|' || lit || '|' "
                    + $"|| opened_on || '|' || seen_at FROM bridge WHERE bridge_id = {id}"
            )
        );
        Assert.Equal(others, app.Ask($"SELECT group_concat(name) FROM bridge WHERE bridge_id <> {id}"));
        Assert.NotNull(app.Ask($"SELECT changed_at FROM bridge WHERE bridge_id = {id}"));
        Assert.Null(app.Ask($"SELECT made_at FROM bridge WHERE bridge_id = {id}"));

        // A browser that fetches ahead does not use the message up; whoever looks does.
        Assert.DoesNotContain("Saved: Named anew.", (await visitor.GetAsync($"/bridges/{id}", ("Sec-Purpose", "prefetch"))).Body);
        Assert.DoesNotContain("Saved: Named anew.", (await visitor.GetAsync("/bridges")).Body);
        var shown = await visitor.GetAsync($"/bridges/{id}");
        Assert.Equal("Saved: Named anew.", shown.Html.QuerySelector(".said[role=status]")!.TextContent);
        Assert.Equal("no-store", shown.Headers.CacheControl!.ToString());
        Assert.DoesNotContain("Saved: Named anew.", (await visitor.GetAsync($"/bridges/{id}")).Body);
    }

    [Fact]
    public async Task What_is_left_alone_stays_as_it_is_whatever_it_is()
    {
        using var visitor = app.Visit();
        var before = app.Ask("SELECT opened_on || hex(note) FROM bridge WHERE bridge_id = 2");
        var form = await visitor.FormAsync("/bridges/2/edit");
        Assert.Equal(app.IsFile ? "long ago" : "", form.Fields["opened_on"]);
        Assert.Equal(app.IsFile ? "text" : "date", form.Document.QuerySelector("#f-opened_on")!.GetAttribute("type"));
        Assert.Equal(303, (await visitor.PostAsync(form.With(("name", "Second too")))).Status);
        Assert.Equal(before, app.Ask("SELECT opened_on || hex(note) FROM bridge WHERE bridge_id = 2"));

        // A text keeps the line ends it has.
        Assert.Equal(
            303,
            (await visitor.PostAsync((await visitor.FormAsync("/bridges/2/edit")).With(("note", "one\r\nthree")))).Status
        );
        Assert.Equal("6F6E650D0A7468726565", app.Ask("SELECT hex(note) FROM bridge WHERE bridge_id = 2"));

        // A record that is referred to but may not be seen stays referred to, and is not told.
        var third = await visitor.FormAsync("/bridges/3/edit");
        Assert.DoesNotContain("hidden", third.Document.QuerySelector("#f-district")!.OuterHtml);
        Assert.Equal(303, (await visitor.PostAsync(third.With(("name", "Third too")))).Status);
        Assert.Equal("hidden", app.Ask("SELECT district FROM bridge WHERE bridge_id = 3"));
    }

    [Fact]
    public async Task All_that_is_wrong_is_said_at_once_and_what_was_typed_is_kept()
    {
        var id = app.AddBridge("AV-1002");
        using var visitor = app.Visit();
        var form = await visitor.FormAsync($"/bridges/{id}/edit");
        var reply = await visitor.PostAsync(
            form.With(
                ("name", ""),
                ("code", "av-0001"),
                ("district", "hidden"),
                ("status", "gone"),
                ("length_m", "12.55"),
                ("lit", "perhaps"),
                ("opened_on", "2024-02-30"),
                ("seen_at", "noon"),
                ("note", new string('x', 51))
            )
        );
        Assert.Equal(422, reply.Status);
        Assert.Equal(
            [
                "Name: Please fill this in.",
                "Code: This must look like AV-0001.",
                "District: There is no such district.",
                "Status: “gone” cannot be chosen here.",
                "Length (m): Please write it with at most 1 digit behind the point.",
                "Lit: Please choose yes or no.",
                "Opened on: “2024-02-30” is not a date; write one like 2024-02-29.",
                "Seen at: “noon” is not a date with a time; write one like 2024-02-29T14:30.",
                "Note: This is 51 characters long; 50 is the most.",
            ],
            reply.Faults
        );
        var shown = Visitor.FormOf(reply);
        Assert.Equal(
            ("", "av-0001", "12.55", "2024-02-30"),
            (shown.Fields["name"], shown.Fields["code"], shown.Fields["length_m"], shown.Fields["opened_on"])
        );
        Assert.Equal("true", shown.Document.QuerySelector("#f-name")!.GetAttribute("aria-invalid"));
        Assert.Contains("f-name-fault", shown.Document.QuerySelector("#f-name")!.GetAttribute("aria-describedby"));
        Assert.Equal("A bridge", app.Ask($"SELECT name FROM bridge WHERE bridge_id = {id}"));

        // The form that came back can be mended and saved.
        Assert.Equal(
            303,
            (
                await visitor.PostAsync(
                    shown.With(
                        ("name", "Mended"),
                        ("code", "AV-1002"),
                        ("district", "fen"),
                        ("status", "open"),
                        ("length_m", "900"),
                        ("lit", ""),
                        ("opened_on", ""),
                        ("seen_at", ""),
                        ("note", "")
                    )
                )
            ).Status
        );
        Assert.Equal("Mended|fen", app.Ask($"SELECT name || '|' || district FROM bridge WHERE bridge_id = {id}"));
    }

    [Theory]
    [InlineData("length_m", "0.4", "This must be 0.5 or more.")]
    [InlineData("length_m", "901", "This must be 900 or less.")]
    [InlineData("length_m", "1e2", "“1e2” is not a number; write one like 3.5.")]
    [InlineData("code", "AV-0001", "Another record has this already; it must be different.")]
    [InlineData("name", "a\u0001b", "This holds a character that cannot be kept here.")]
    public async Task One_thing_that_is_wrong_is_said_at_its_field(string field, string text, string said)
    {
        using var visitor = app.Visit();
        var reply = await visitor.PostAsync((await visitor.FormAsync("/bridges/2/edit")).With((field, text)));
        Assert.Equal(422, reply.Status);
        Assert.EndsWith(": " + said, Assert.Single(reply.Faults));
    }

    [Fact]
    public async Task What_only_the_database_knows_comes_back_as_a_sentence_at_the_right_place()
    {
        using var visitor = app.Visit();
        var check = await visitor.PostAsync(
            (await visitor.FormAsync("/bridges/1/edit")).With(("status", "closed"), ("toll", "true"))
        );
        Assert.Equal(409, check.Status);
        Assert.Equal(["These values do not go together for a bridge."], check.Faults);
        Assert.Equal("open", app.Ask("SELECT status FROM bridge WHERE bridge_id = 1"));

        var trigger = await visitor.PostAsync((await visitor.FormAsync("/defects/1/edit")).With(("said_by", "nobody")));
        Assert.Equal(409, trigger.Status);
        Assert.Equal(["Said by: Said by must be somebody."], trigger.Faults);

        var span = await visitor.PostAsync((await visitor.FormAsync("/defects/1/edit")).With((Span, "1/9")));
        Assert.Equal(422, span.Status);
        Assert.Equal(["Span: There is no such span: bridge id and span no do not belong together."], span.Faults);
    }

    /// <summary>The input of the foreign key (bridge_id, span_no).</summary>
    private const string Span = "_jexa.record.span_no";

    [Fact]
    public async Task A_foreign_key_of_several_columns_is_one_choice()
    {
        using var visitor = app.Visit();
        var form = await visitor.FormAsync("/defects/1/edit");
        Assert.DoesNotContain("bridge_id", form.Fields.Keys);
        Assert.DoesNotContain("span_no", form.Fields.Keys);
        Assert.Equal("1/1", form.Fields[Span]);
        var select = form.Document.QuerySelector($"select[name='{Span}']")!;
        Assert.Equal("Span", form.Document.QuerySelector($"label[for='{select.Id}']")!.TextContent.Trim());
        Assert.Equal(
            "1/1 First, Span 1; 1/2 First, Span 2",
            string.Join("; ", select.Children.Take(2).Select(option => $"{option.GetAttribute("value")} {option.TextContent}"))
        );

        // As it is, another one, and what is none.
        Assert.Equal(
            (303, "1|1"),
            (
                (await visitor.PostAsync(form)).Status,
                app.Ask("SELECT bridge_id || '|' || span_no FROM defect WHERE defect_id = 1")
            )
        );
        Assert.Equal(
            (303, "1|2"),
            (
                (await visitor.PostAsync((await visitor.FormAsync("/defects/1/edit")).With((Span, "1/2")))).Status,
                app.Ask("SELECT bridge_id || '|' || span_no FROM defect WHERE defect_id = 1")
            )
        );
        foreach (
            var (sent, said) in new[]
            {
                ("1", "“1” cannot be chosen here."),
                ("1/x", "“x” is not a whole number."),
                ("9/1", "There is no such bridge."),
                ("", "Please choose one."),
            }
        )
            Assert.Equal((422, $"Span: {said}"), await FaultAsync("/defects/1/edit", (Span, sent)));
        Assert.Equal(
            (422, "Span: This belongs to another span no than the one above."),
            await FaultAsync("/defects/1/edit", (Span, "1/2"), ("span_no", "1"))
        );
        Assert.Equal("1|2", app.Ask("SELECT bridge_id || '|' || span_no FROM defect WHERE defect_id = 1"));

        // Where the address decides the bridge, its spans are offered, and no other bridge's is taken.
        var added = await visitor.FormAsync("/defects/new?bridge=1");
        Assert.Equal(("1", ""), (added.Fields["bridge_id"], added.Fields[Span]));
        var (status, fault) = await FaultAsync("/defects/new?bridge=1", (Span, "2/1"), ("severity", "1"));
        Assert.Equal((422, "Span: This belongs to another bridge than the one above."), (status, fault));
        Assert.Equal(303, (await visitor.PostAsync(added.With((Span, "1/2"), ("severity", "2")))).Status);

        // Programs write the columns.
        var read = await visitor.JsonAsync("/defects/1/edit");
        Assert.Equal(
            200,
            (await visitor.PatchAsync("/defects/1/edit", """{"fields":{"bridge_id":1,"span_no":1}}""", read.Tag)).Status
        );
        Assert.Equal("1|1", app.Ask("SELECT bridge_id || '|' || span_no FROM defect WHERE defect_id = 1"));

        async Task<(int, string)> FaultAsync(string path, params (string, string?)[] fields)
        {
            var reply = await visitor.PostAsync((await visitor.FormAsync(path)).With(fields));
            return (reply.Status, string.Join("; ", reply.Faults));
        }
    }

    [Fact]
    public async Task A_refused_rename_says_that_others_refer_to_the_record()
    {
        using var visitor = app.Visit();
        var reply = await visitor.PostAsync((await visitor.FormAsync("/districts/moor/edit")).With(("slug", "moorland")));
        Assert.Equal(
            (409, "Other records refer to this district by its Slug: it cannot change while they do."),
            (reply.Status, string.Join("; ", reply.Faults))
        );
        Assert.Equal("moor", app.Ask("SELECT slug FROM district WHERE name = 'The Moor'"));
    }

    [Fact]
    public async Task Nothing_that_the_form_does_not_ask_for_is_ever_written()
    {
        var id = app.AddBridge("AV-1003");
        using var visitor = app.Visit();
        var form = await visitor.FormAsync($"/bridges/{id}/edit");
        foreach (
            var (field, value) in new[]
            {
                ("bridge_id", "77"),
                ("made_at", "2000-01-01 00:00:00"),
                ("twice", "3"),
                ("unheard_of", "1"),
            }
        )
        {
            var reply = await visitor.PostAsync(form.With(("name", "Posted"), (field, value)));
            Assert.Equal(422, reply.Status);
            Assert.Equal([$"The form does not have “{field}”."], reply.Faults);
        }

        Assert.Equal($"{id}|A bridge", app.Ask("SELECT bridge_id || '|' || name FROM bridge WHERE code = 'AV-1003'"));

        // A field twice is one too many, and one too few is not taken for empty.
        var pairs = form.Fields.Append(KeyValuePair.Create("name", "Twice"));
        var doubled = await visitor.SendAsync(HttpMethod.Post, form.Action, new FormUrlEncodedContent(pairs));
        Assert.Equal((422, "Name: This arrived more than once."), (doubled.Status, Assert.Single(doubled.Faults)));
        var lacking = await visitor.PostAsync(form.With(("note", null)));
        Assert.Equal(
            (422, "Note: This did not arrive. Please send the form again."),
            (lacking.Status, Assert.Single(lacking.Faults))
        );
    }

    [Fact]
    public async Task Saving_twice_writes_once()
    {
        using var visitor = app.Visit();
        var form = (await visitor.FormAsync("/bridges/new")).With(("name", "Once"), ("code", "AV-1004"), ("district", "moor"));
        var both = await Task.WhenAll(visitor.PostAsync(form), visitor.PostAsync(form), visitor.PostAsync(form));
        Assert.All(both, reply => Assert.Equal(303, reply.Status));
        Assert.Single(both.Select(reply => reply.Location).Distinct());
        Assert.Equal("1", app.Ask("SELECT count(*) FROM bridge WHERE name = 'Once'"));

        // With other content the form is shown again, not saved and not lost.
        var other = await visitor.PostAsync(form.With(("name", "Once more"), ("code", "AV-1005")));
        Assert.Equal(409, other.Status);
        Assert.Equal("Once more", Visitor.FormOf(other).Fields["name"]);
        Assert.Equal(303, (await visitor.PostAsync(Visitor.FormOf(other))).Status);
        Assert.Equal("2", app.Ask("SELECT count(*) FROM bridge WHERE name LIKE 'Once%'"));

        // An invalid save spends nothing.
        var edit = await visitor.FormAsync(both[0].Location + "/edit");
        Assert.Equal(422, (await visitor.PostAsync(edit.With(("name", "")))).Status);
        Assert.Equal(303, (await visitor.PostAsync(edit.With(("name", "Twice")))).Status);
        var again = await visitor.PostAsync(edit.With(("name", "Twice")));
        Assert.Equal((303, both[0].Location), (again.Status, again.Location));
        var late = await visitor.PostAsync(edit.With(("name", "Thrice")));
        Assert.Equal((409, "Thrice"), (late.Status, Visitor.FormOf(late).Fields["name"]));
        Assert.Equal("Twice", app.Ask("SELECT name FROM bridge WHERE code = 'AV-1004'"));
    }

    [Fact]
    public async Task A_new_record_gets_its_key_from_the_database_and_its_defaults_from_schema_and_app_file()
    {
        using var visitor = app.Visit();
        Assert.Equal("/bridges/new", (await visitor.GetAsync("/bridges")).Html.QuerySelector(".add a")!.GetAttribute("href"));
        Assert.Null((await visitor.GetAsync("/districts")).Html.QuerySelector(".add a"));
        var form = await visitor.FormAsync("/bridges/new");
        Assert.Equal("New bridge", form.Document.QuerySelector("h1")!.TextContent);
        var reply = await visitor.PostAsync(form.With(("name", "Brand new"), ("code", "AV-1006"), ("district", "fen")));
        Assert.Equal(303, reply.Status);
        var id = app.Ask("SELECT bridge_id FROM bridge WHERE code = 'AV-1006'");
        Assert.Equal($"/bridges/{id}", reply.Location);
        Assert.Equal("open|0", app.Ask($"SELECT status || '|' || toll FROM bridge WHERE bridge_id = {id}"));
        Assert.NotNull(app.Ask($"SELECT made_at FROM bridge WHERE bridge_id = {id}"));
        Assert.Contains("Added: Brand new.", (await visitor.GetAsync(reply.Location!)).Body);

        // A UUID is made by Jexa; a key of the visitor's own is asked for; a page of the app's own choosing comes after.
        Assert.Equal(
            303,
            (await visitor.PostAsync((await visitor.FormAsync("/inspectors/new")).With(("name", "Ins Pector")))).Status
        );
        Assert.Matches("^[0-9a-f-]{36}$", app.Ask("SELECT inspector_id FROM inspector"));
        var district = await visitor.PostAsync(
            (await visitor.FormAsync("/new-district")).With(("slug", "weald"), ("name", "The Weald"))
        );
        Assert.Equal((303, "/districts"), (district.Status, district.Location));
    }

    [Fact]
    public async Task A_new_record_may_belong_to_one_that_its_address_names()
    {
        using var visitor = app.Visit();
        Assert.Equal(
            "/bridges/1/spans/new",
            (await visitor.GetAsync("/bridges/1"))
                .Html.QuerySelectorAll(".links a")
                .Single(a => a.TextContent == "Add a span")
                .GetAttribute("href")
        );
        Assert.Equal(
            "/bridges/1/spans/new",
            (await visitor.GetAsync("/bridges/1/spans")).Html.QuerySelector(".add a")!.GetAttribute("href")
        );
        Assert.Equal(
            (404, 400, 404),
            (
                (await visitor.GetAsync("/bridges/999/spans/new")).Status,
                (await visitor.GetAsync("/bridges/x/spans/new")).Status,
                (await visitor.GetAsync("/bridges/4/spans/new")).Status
            )
        );
        var form = await visitor.FormAsync("/bridges/1/spans/new");
        var reply = await visitor.PostAsync(form.With(("span_no", "3"), ("kind", "river")));
        Assert.Equal((303, "/bridges/1/spans/3"), (reply.Status, reply.Location));
        Assert.Equal("river", app.Ask("SELECT kind FROM span WHERE bridge_id = 1 AND span_no = 3"));
        var taken = await visitor.PostAsync(
            (await visitor.FormAsync("/bridges/1/spans/new")).With(("span_no", "1"), ("kind", "river"))
        );
        Assert.Equal(
            (422, "Span no: Another record has the same already; together they must be different."),
            (taken.Status, Assert.Single(taken.Faults))
        );

        // One that must be there leads a person to where one can be chosen, and says why.
        var lacking = await visitor.GetAsync("/add-defect");
        Assert.Equal((302, "/bridges?lacking=defect-of.bridge"), (lacking.Status, lacking.Location));
        Assert.Contains("did not say to which bridge the new defect belongs", (await visitor.GetAsync(lacking.Location!)).Body);
        Assert.Equal(400, (await visitor.JsonAsync("/add-defect?bridge=")).Status);
        Assert.Equal(
            (301, "/add-defect?bridge=1"),
            ((await visitor.GetAsync("/add-defect?bridge=01")).Status, (await visitor.GetAsync("/add-defect?bridge=01")).Location)
        );

        // A parameter that need not be there decides its field if it is.
        var fixedForm = await visitor.FormAsync("/defects/new?bridge=1");
        Assert.Equal("First", fixedForm.Document.QuerySelector(".decided")!.TextContent);
        Assert.Equal(404, (await visitor.GetAsync("/defects/new?bridge=999")).Status);
        Assert.Equal(400, (await visitor.GetAsync("/defects/new?bridge=x")).Status);
        Assert.Equal("SELECT", (await visitor.FormAsync("/town")).Document.QuerySelector("#f-bridge_id")!.TagName);
    }

    [Fact]
    public async Task One_address_can_be_for_a_new_record_and_for_one_that_is_there()
    {
        using var visitor = app.Visit();
        var made = await visitor.PostAsync((await visitor.FormAsync("/town")).With(("name", "Ford")));
        Assert.Equal(303, made.Status);
        var id = app.Ask("SELECT town_id FROM town");
        Assert.Equal($"/towns/{id}", made.Location);
        Assert.Equal("Ford", (await visitor.FormAsync($"/town?id={id}")).Fields["name"]);
    }

    [Fact]
    public async Task A_record_among_many_is_found_by_its_name_without_scripts()
    {
        app.Do(
            "INSERT INTO bridge (code, name, district) VALUES "
                + $"{string.Join(", ", Enumerable.Range(1, 150).Select(i => $"('AV-{5000 + i}', 'Many {i}', 'moor')"))}"
        );
        using var visitor = app.Visit();
        var form = (await visitor.FormAsync("/town")).With(("name", "Typed already"));
        Assert.Single(form.Document.QuerySelectorAll("#f-bridge_id option"));
        var found = await visitor.PostAsync(form.With(("_jexa.find.bridge_id", "many 14"), ("_jexa.ask", "bridge_id")));
        Assert.Equal(200, found.Status);
        var shown = Visitor.FormOf(found);
        Assert.Equal("Typed already", shown.Fields["name"]);
        Assert.Equal(11, shown.Document.QuerySelectorAll("#f-bridge_id option").Length - 1);
        var chosen = shown
            .Document.QuerySelectorAll("#f-bridge_id option")
            .First(option => option.TextContent == "Many 148")
            .GetAttribute("value")!;
        Assert.Equal(303, (await visitor.PostAsync(shown.With(("bridge_id", chosen)))).Status);
        Assert.Equal(chosen, app.Ask("SELECT bridge_id FROM town WHERE name = 'Typed already'"));
        Assert.Equal("0", app.Ask("SELECT count(*) FROM town WHERE name = 'Typed already' AND bridge_id IS NULL"));
        app.Do("DELETE FROM town WHERE name = 'Typed already'; DELETE FROM bridge WHERE name LIKE 'Many %'");
    }

    [Fact]
    public async Task A_delete_is_asked_for_twice_and_leaves_an_honest_address_behind()
    {
        var id = app.AddBridge("AV-1007", "To go");
        using var visitor = app.Visit();
        var page = await visitor.GetAsync($"/bridges/{id}/delete");
        Assert.Contains("No other record refers to this bridge.", page.Body);
        Assert.Equal("1", app.Ask($"SELECT count(*) FROM bridge WHERE bridge_id = {id}"));
        var form = Visitor.FormOf(page);
        var reply = await visitor.PostAsync(form);
        Assert.Equal((303, "/bridges"), (reply.Status, reply.Location));
        Assert.Contains("Deleted: To go.", (await visitor.GetAsync("/bridges")).Body);
        Assert.Equal(
            (410, 410, 410),
            (
                (await visitor.GetAsync($"/bridges/{id}")).Status,
                (await visitor.GetAsync($"/bridges/{id}/edit")).Status,
                (await visitor.GetAsync("/codes?code=AV-1007")).Status
            )
        );
        Assert.Equal("gone", (await visitor.JsonAsync($"/bridges/{id}")).Json.GetProperty("outcome").GetString());

        // Sent again it leads to where the first one led; a new record of the old code is found, one made elsewhere and gone is
        // unknown.
        Assert.Equal((303, "/bridges"), ((await visitor.PostAsync(form)).Status, (await visitor.PostAsync(form)).Location));
        app.Do($"INSERT INTO bridge (bridge_id, code, name, district) VALUES ({id}, 'AV-1007', 'Back', 'moor')");
        Assert.Equal(200, (await visitor.GetAsync($"/bridges/{id}")).Status);
        Assert.Equal(404, (await visitor.GetAsync("/bridges/123456")).Status);
    }

    [Fact]
    public async Task What_hangs_on_a_record_is_counted_and_what_the_database_refuses_is_said()
    {
        using var visitor = app.Visit();
        var page = await visitor.GetAsync("/bridges/1/delete");
        Assert.Matches(@"\d+ spans: as long as they are there, this cannot be deleted", page.Body);
        Assert.Null(page.Html.QuerySelector("button.grave"));
        Assert.Contains("1 defect: it is deleted as well", (await visitor.GetAsync("/bridges/1/spans/1/delete")).Body);

        var id = app.AddBridge("AV-1008");
        var form = await visitor.FormAsync($"/bridges/{id}/delete");
        app.Do($"INSERT INTO town (name, bridge_id) VALUES ('In the way', {id})");
        var refused = await visitor.PostAsync(form);
        Assert.Equal(409, refused.Status);
        Assert.Contains("This bridge cannot be deleted: other records refer to it. Nothing was changed.", refused.Body);
        Assert.Equal("1", app.Ask($"SELECT count(*) FROM bridge WHERE bridge_id = {id}"));

        // What changed since it was shown is not deleted unseen.
        app.Do("DELETE FROM town WHERE name = 'In the way'");
        form = await visitor.FormAsync($"/bridges/{id}/delete");
        app.Do($"UPDATE bridge SET name = 'Changed' WHERE bridge_id = {id}");
        var conflict = await visitor.PostAsync(form);
        Assert.Equal((409, true), (conflict.Status, conflict.Body.Contains("Changed", StringComparison.Ordinal)));
        Assert.Equal(303, (await visitor.PostAsync(Visitor.FormOf(conflict))).Status);
    }

    [Fact]
    public async Task A_changed_key_leads_on_through_chains_and_swaps_and_never_to_what_is_not_visible()
    {
        app.Do("INSERT INTO district VALUES ('a', 'A', NULL), ('b', 'B', NULL)");
        using var visitor = app.Visit();
        async Task RenameAsync(string from, string to)
        {
            var reply = await visitor.PostAsync((await visitor.FormAsync($"/districts/{from}/edit")).With(("slug", to)));
            Assert.Equal((303, $"/districts/{to}"), (reply.Status, reply.Location));
        }

        await RenameAsync("a", "a2");
        await RenameAsync("a2", "a3");
        Assert.Equal(
            (301, "/districts/a3"),
            ((await visitor.GetAsync("/districts/a")).Status, (await visitor.GetAsync("/districts/a")).Location)
        );
        Assert.Equal("/districts/a3/edit", (await visitor.GetAsync("/districts/a2/edit")).Location);

        // A swap over a name in between: both are found under the other's key.
        await RenameAsync("a3", "swap");
        await RenameAsync("b", "a3");
        await RenameAsync("swap", "b");
        Assert.Equal(
            ("B", "A"),
            (
                (await visitor.GetAsync("/districts/a3")).Html.QuerySelector("h1")!.TextContent,
                (await visitor.GetAsync("/districts/b")).Html.QuerySelector("h1")!.TextContent
            )
        );
        Assert.Equal("/districts/b", (await visitor.GetAsync("/districts/a")).Location);

        // A record that took the old key is shown, not left; one that may not be seen is never led to.
        app.Do("INSERT INTO district VALUES ('a', 'Another', NULL)");
        Assert.Equal(200, (await visitor.GetAsync("/districts/a")).Status);
        var veiled = await visitor.PostAsync(
            (await visitor.FormAsync("/districts/b/edit")).With(("slug", "c"), ("warden", "veiled"))
        );
        Assert.Equal((303, "/districts"), (veiled.Status, veiled.Location));
        Assert.Contains("It is not shown in this app any more.", (await visitor.GetAsync("/districts")).Body);
        Assert.Equal(
            (404, 404),
            ((await visitor.GetAsync("/districts/a2")).Status, (await visitor.GetAsync("/districts/b")).Status)
        );
    }

    [Fact]
    public async Task Deleting_under_a_new_key_makes_the_old_one_gone_even_when_another_record_comes_to_the_new_one()
    {
        app.Do("INSERT INTO district VALUES ('x', 'X', NULL)");
        using var visitor = app.Visit();
        Assert.Equal(303, (await visitor.PostAsync((await visitor.FormAsync("/districts/x/edit")).With(("slug", "y")))).Status);
        Assert.Equal(303, (await visitor.PostAsync(await visitor.FormAsync("/districts/y/delete"))).Status);
        Assert.Equal(
            303,
            (await visitor.PostAsync((await visitor.FormAsync("/new-district")).With(("slug", "y"), ("name", "Other Y")))).Status
        );
        Assert.Equal(
            (200, 410),
            ((await visitor.GetAsync("/districts/y")).Status, (await visitor.GetAsync("/districts/x")).Status)
        );
    }

    [Fact]
    public async Task A_secret_field_is_never_shown_and_left_empty_stays_as_it_is()
    {
        using var visitor = app.Visit();
        var form = await visitor.FormAsync("/bridges/1/edit");
        Assert.Equal(303, (await visitor.PostAsync(form.With(("name", "First")))).Status);
        Assert.Equal("a-pin-of-its-own", app.Ask("SELECT pin FROM bridge WHERE bridge_id = 1"));
        Assert.Equal(
            303,
            (await visitor.PostAsync((await visitor.FormAsync("/bridges/1/edit")).With(("pin", "s3cret-pin")))).Status
        );
        Assert.Equal("s3cret-pin", app.Ask("SELECT pin FROM bridge WHERE bridge_id = 1"));
        var traces = await app.Service.AskAsync("changes", "--json", "--record", "bridge", "--id", "1");
        Assert.DoesNotContain("s3cret-pin", traces.Out);
        Assert.Contains("\"secret\": true", traces.Out);
        var client = JsonDocument.Parse((await app.Service.AskAsync("trace", "/bridges/1/edit", "--json")).Out);
        Assert.DoesNotContain("s3cret-pin", client.RootElement.GetRawText());
        Assert.DoesNotContain("s3cret-pin", (await visitor.GetAsync("/bridges/1/edit")).Body);
    }
}
