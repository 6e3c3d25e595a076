using System.Diagnostics;
using Jexa.Core.Drafts;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Tests.Conformance;

/// <summary>What every engine that reads and writes a database must do. One class for each engine gives it a database.</summary>
public abstract class SourceConformance(string engine, bool pooled = false) : IDisposable
{
    private readonly TestDatabase _database = new(engine, pooled);

    protected TestDatabase Database => _database;

    /// <summary>
    /// Districts and bridges, by hand: 1 Ash, 2 beech, 3 Çedar, 4 Dog_Rose, 5 Elm 100% (no district), 6 'fir ' (hidden, no
    /// opening day), and spans of two.
    /// </summary>
    protected abstract string Schema { get; }

    /// <summary>A view <c>endless</c> with a column n that takes longer than anybody waits.</summary>
    protected abstract string Endless { get; }

    public void Dispose()
    {
        _database.Dispose();
        GC.SuppressFinalize(this);
    }

    private static Condition Is(string column, object value) => new Condition.Equal(ColumnRef.Own(column), Written(value));

    private static Operand Written(object value) =>
        new Operand.Written(
            value switch
            {
                int whole => new TypedValue.Whole(whole),
                string text => new TypedValue.Text(text),
                bool truth => new TypedValue.Boolean(truth),
                decimal number => new TypedValue.Number(number),
                DateOnly day => new TypedValue.Date(day),
                DateTime moment => new TypedValue.Moment(moment),
                Guid uuid => new TypedValue.Uuid(uuid),
                _ => throw new ArgumentException("No constant of this type.", nameof(value)),
            }
        );

    private static Operand Given(int number, FieldType type) => new Operand.Argument(number, type);

    private static RecordQuery Bridges(
        IReadOnlyList<Condition>? where = null,
        IReadOnlyList<Ordering>? order = null,
        int limit = 100,
        params (string Name, FieldType Type)[] columns
    ) =>
        new(
            RecordRows.Whole(RowOrigin.Of("bridge")),
            [],
            [
                .. (columns.Length == 0 ? [("id", FieldType.Integer)] : columns).Select(column => new Projection(
                    ColumnRef.Own(column.Name),
                    column.Type
                )),
            ],
            where ?? [],
            null,
            order ?? [new Ordering.ByColumn(ColumnRef.Own("id"), false, null)],
            limit
        );

    private async Task<ISource> OpenAsync(double seconds = 5, SourceWriting writing = SourceWriting.Noted)
    {
        _database.Execute(Schema);
        var source = _database.Open(seconds, writing);
        await source.DescribeAsync(CancellationToken.None);
        return source;
    }

    private static async Task<RowBlock> RunAsync(IPreparedQuery query, params TypedValue[] arguments)
    {
        var rows = new RowBlock();
        rows.Reset(query.Width);
        await query.RunAsync(arguments, rows, CancellationToken.None);
        return rows;
    }

    private static string Show(RowBlock rows) =>
        string.Join(
            "; ",
            Enumerable
                .Range(0, rows.Count)
                .Select(row => string.Join(' ', Enumerable.Range(0, rows.Width).Select(column => Show(rows[row], column))))
        );

    private static string Show(Row row, int column) =>
        row[column].Kind switch
        {
            CellKind.Null => "-",
            CellKind.Real => row[column].Real.ToString(System.Globalization.CultureInfo.InvariantCulture),
            CellKind.Date => DateOnly.FromDayNumber((int)row[column].Integer).ToString("yyyy-MM-dd"),
            CellKind.Timestamp => new DateTime(row[column].Integer).ToString("yyyy-MM-ddTHH:mm:ss.FFF"),
            CellKind.Uuid => new Guid(row.Run(column), bigEndian: true).ToString(),
            CellKind.Text or CellKind.Decimal => row.Text(column),
            CellKind.Bytes => Convert.ToHexString(row.Run(column)),
            _ => row[column].Integer.ToString(System.Globalization.CultureInfo.InvariantCulture),
        };

    private static async Task<string> IdsAsync(ISource source, params Condition[] where) =>
        Show(await RunAsync(source.Prepare(Bridges(where))));

    [Fact]
    public async Task It_says_what_it_holds()
    {
        await using var source = await OpenAsync();
        var schema = await source.DescribeAsync(CancellationToken.None);
        Assert.Equal(
            ["bridge", "district", "span"],
            schema.Tables.Where(table => table.Kind == TableKind.Table).Select(table => table.Name).Order()
        );
        var bridge = schema.Find("bridge")!;
        Assert.Equal(
            ["id", "code", "name", "district", "opened_on", "seen_at", "length_m", "weight", "toll", "tag"],
            bridge.Columns.Select(column => column.Name)
        );
        Assert.Equal(
            [
                FieldType.Integer,
                FieldType.Text,
                FieldType.Text,
                FieldType.Text,
                FieldType.Date,
                FieldType.Timestamp,
                FieldType.Decimal,
                FieldType.Real,
                FieldType.Boolean,
                FieldType.Uuid,
            ],
            bridge.Columns.Select(column => column.Name == "tag" && column.Type == FieldType.Text ? FieldType.Uuid : column.Type)
        );
        Assert.Equal(["id"], bridge.PrimaryKey);
        Assert.Equal(
            ["id", "code", "name", "toll"],
            bridge.Columns.Where(column => !column.Nullable).Select(column => column.Name)
        );
        Assert.Equal(["id"], bridge.Columns.Where(column => column.Automatic).Select(column => column.Name));
        Assert.Equal(["code"], bridge.Columns.Where(column => column.FoldsCase).Select(column => column.Name));
        Assert.True(bridge.IsUnique(["code"]) && !bridge.IsUnique(["name"]));
        Assert.Contains("district", bridge.IndexedFirst);
        var key = Assert.Single(bridge.ForeignKeys);
        Assert.Equal(
            ("district", "district", "slug", DeleteRule.Refuse),
            (key.Columns[0], key.Table, key.References[0], key.OnDelete)
        );
        var length = bridge.Find("length_m")!.Rules;
        Assert.Equal((7, 1, 0m), (length.Precision, length.Scale, length.Least));
        Assert.Equal(["high", "low"], schema.Find("span")!.Find("kind")!.Rules.OneOf!.Order());
        Assert.Equal(["bridge_id", "no"], schema.Find("span")!.PrimaryKey);
        Assert.Equal(DeleteRule.Cascade, schema.Find("span")!.ForeignKeys[0].OnDelete);
        var view = schema.Find("open_bridge")!;
        Assert.True(view.Kind == TableKind.View && view.PrimaryKey.Count == 0 && view.Find("name") is { Nullable: true });
    }

    [Fact]
    public async Task Values_come_back_as_what_they_are()
    {
        await using var source = await OpenAsync();
        var rows = await RunAsync(
            source.Prepare(
                Bridges(
                    [],
                    null,
                    2,
                    ("id", FieldType.Integer),
                    ("name", FieldType.Text),
                    ("opened_on", FieldType.Date),
                    ("seen_at", FieldType.Timestamp),
                    ("length_m", FieldType.Decimal),
                    ("weight", FieldType.Real),
                    ("toll", FieldType.Boolean),
                    ("tag", FieldType.Uuid)
                )
            )
        );
        Assert.Equal(
            "1 Ash 2019-12-31 2020-06-01T12:30:15.5 10.5 1.5 1 0190a5f0-7c1e-7b5a-8c39-0123456789ab; 2 "
                + "beech 2020-01-01 - 20.0 - 0 -",
            Show(rows).Replace(" 20 ", " 20.0 ")
        );
        Assert.Equal(
            [CellKind.Integer, CellKind.Text, CellKind.Date, CellKind.Timestamp, CellKind.Real, CellKind.Boolean, CellKind.Uuid],
            new[] { 0, 1, 2, 3, 5, 6, 7 }.Select(column => rows[0][column].Kind)
        );
    }

    [Fact]
    public async Task A_stored_value_finds_its_own_row_again()
    {
        await using var source = await OpenAsync();
        string[] names = ["id", "code", "name", "district", "opened_on", "seen_at", "length_m", "weight", "toll", "tag"];
        var rows = await RunAsync(source.Prepare(Bridges([], null, 100, [.. names.Select(name => (name, FieldType.Any))])));
        for (var row = 0; row < rows.Count; row++)
        {
            for (var column = 0; column < names.Length; column++)
            {
                if (rows[row][column].IsNull)
                    continue;
                var value = Jexa.Core.Edits.StoredValue.Of(rows[row], column);
                var found = await RunAsync(
                    source.Prepare(
                        Bridges([new Condition.Equal(ColumnRef.Own(names[column]), Given(0, FieldType.Any)), Is("id", row + 1)])
                    ),
                    value
                );
                Assert.True(found.Count == 1, $"{names[column]} of {row + 1}: {value}");
            }
        }
    }

    [Fact]
    public async Task By_key_there_is_one_row_or_none_and_texts_never_meet_numbers()
    {
        await using var source = await OpenAsync();
        var byId = source.Prepare(Bridges([new Condition.Equal(ColumnRef.Own("id"), Given(0, FieldType.Integer))], [], 2));
        Assert.Equal("4", Show(await RunAsync(byId, new TypedValue.Whole(4))));
        Assert.Equal(0, (await RunAsync(byId, new TypedValue.Whole(99))).Count);
        Assert.Equal(0, (await RunAsync(byId, new TypedValue.Whole(long.MaxValue))).Count);
        var byTag = source.Prepare(Bridges([new Condition.Equal(ColumnRef.Own("tag"), Given(0, FieldType.Uuid))], [], 2));
        Assert.Equal("1", Show(await RunAsync(byTag, new TypedValue.Uuid(new Guid("0190a5f0-7c1e-7b5a-8c39-0123456789ab")))));
        var byName = source.Prepare(Bridges([new Condition.Equal(ColumnRef.Own("name"), Given(0, FieldType.Text))], [], 2));
        foreach (var none in new[] { "0", "", "ash", "Ash ' OR 1=1", "Ash\\", "%" })
            Assert.Equal(0, (await RunAsync(byName, new TypedValue.Text(none))).Count);
        var idAsText = source.Prepare(Bridges([new Condition.Equal(ColumnRef.Own("id"), Given(0, FieldType.Text))], [], 2));
        Assert.Equal(0, (await RunAsync(idAsText, new TypedValue.Text("1x"))).Count);
    }

    [Fact]
    public async Task Two_rows_for_one_key_are_both_seen_and_the_exact_spelling_comes_first()
    {
        await using var source = await OpenAsync();
        var byDistrict = source.Prepare(
            Bridges([new Condition.Equal(ColumnRef.Own("district"), Given(0, FieldType.Text))], [], 2)
        );
        Assert.Equal(2, (await RunAsync(byDistrict, new TypedValue.Text("moor"))).Count);
        var byCode = source.Prepare(
            Bridges(
                [new Condition.Equal(ColumnRef.Own("code"), Given(0, FieldType.Text))],
                [new Ordering.ExactFirst(ColumnRef.Own("code"), 0)],
                2,
                ("code", FieldType.Text)
            )
        );
        Assert.Equal("AV-1", Show(await RunAsync(byCode, new TypedValue.Text("av-1"))));
        Assert.Equal("AV-1", Show(await RunAsync(byCode, new TypedValue.Text("AV-1"))));
    }

    [Fact]
    public async Task Every_condition_of_the_query_model_holds_where_it_should()
    {
        await using var source = await OpenAsync();
        var name = ColumnRef.Own("name");
        var opened = ColumnRef.Own("opened_on");
        Assert.Equal("1; 2", await IdsAsync(source, Is("district", "moor")));
        Assert.Equal("3; 4; 5; 6", await IdsAsync(source, new Condition.Differs(ColumnRef.Own("district"), Written("moor"))));
        Assert.Equal(
            "1; 3; 4",
            await IdsAsync(source, new Condition.OneOf(ColumnRef.Own("id"), [Written(1), Written(3), Written(4), Written(77)]))
        );
        Assert.Equal("5", await IdsAsync(source, new Condition.IsEmpty(ColumnRef.Own("district"))));
        Assert.Equal("1; 2; 3; 4; 6", await IdsAsync(source, new Condition.IsFilled(ColumnRef.Own("district"))));
        Assert.Equal(
            "2; 3",
            await IdsAsync(
                source,
                new Condition.Compare(opened, Comparison.AtLeast, Written(new DateOnly(2020, 1, 1))),
                new Condition.Compare(opened, Comparison.Less, Written(new DateOnly(2021, 1, 1)))
            )
        );
        Assert.Equal(
            "1",
            await IdsAsync(source, new Condition.Compare(opened, Comparison.Less, Written(new DateOnly(2020, 1, 1))))
        );
        Assert.Equal(
            "1; 2",
            await IdsAsync(source, new Condition.Compare(opened, Comparison.AtMost, Written(new DateOnly(2020, 1, 1))))
        );
        Assert.Equal(
            "1",
            await IdsAsync(
                source,
                new Condition.Compare(ColumnRef.Own("seen_at"), Comparison.Greater, Written(new DateTime(2020, 6, 1, 12, 30, 15)))
            )
        );
        Assert.Equal(
            "",
            await IdsAsync(
                source,
                new Condition.Compare(ColumnRef.Own("seen_at"), Comparison.Greater, Written(new DateTime(2020, 6, 1, 12, 30, 16)))
            )
        );
        Assert.Equal("2", await IdsAsync(source, Is("length_m", 20m)));
        Assert.Equal("2; 3; 4; 5; 6", await IdsAsync(source, Is("toll", false)));
        Assert.Equal("1", await IdsAsync(source, Is("tag", new Guid("0190a5f0-7c1e-7b5a-8c39-0123456789ab"))));
        Assert.Equal("4", await IdsAsync(source, new Condition.Contains(name, Written("g_R"))));
        Assert.Equal("5", await IdsAsync(source, new Condition.Contains(name, Written("0%"))));
        Assert.Equal("2; 3; 4; 5", await IdsAsync(source, new Condition.Contains(name, Written("E"))));
        Assert.Equal("4", await IdsAsync(source, new Condition.StartsWith(name, Written("Dog_"))));
        Assert.Equal("5", await IdsAsync(source, new Condition.StartsWith(name, Written("Elm 100%"))));
        Assert.Equal("", await IdsAsync(source, new Condition.StartsWith(name, Written("D_g"))));
        Assert.Equal("1; 2; 3; 4; 5; 6", await IdsAsync(source, new Condition.StartsWith(ColumnRef.Own("code"), Written("AV-"))));
        Assert.Equal(
            "1; 5",
            await IdsAsync(
                source,
                new Condition.Any([
                    Is("id", 1),
                    new Condition.All([Is("id", 5), new Condition.IsEmpty(ColumnRef.Own("district"))]),
                ])
            )
        );
        Assert.Equal("1; 2; 3; 4; 5; 6", await IdsAsync(source, new Condition.All([])));
        Assert.Equal("", await IdsAsync(source, new Condition.Any([])));
    }

    [Fact]
    public async Task Rows_come_in_every_order_with_empty_values_where_they_are_wanted()
    {
        await using var source = await OpenAsync();
        async Task<string> By(string column, bool descending, EmptyPlace? empties) =>
            Show(
                await RunAsync(
                    source.Prepare(
                        Bridges(
                            [],
                            [
                                new Ordering.ByColumn(ColumnRef.Own(column), descending, empties),
                                new Ordering.ByColumn(ColumnRef.Own("id"), descending, null),
                            ]
                        )
                    )
                )
            );
        Assert.Equal("1; 2; 3; 4; 5; 6", await By("opened_on", false, EmptyPlace.Last));
        Assert.Equal("5; 6; 1; 2; 3; 4", await By("opened_on", false, EmptyPlace.First));
        Assert.Equal("4; 3; 2; 1; 6; 5", await By("opened_on", true, EmptyPlace.Last));
        Assert.Equal("6; 5; 4; 3; 2; 1", await By("opened_on", true, EmptyPlace.First));
        Assert.Equal("6; 5; 4; 3; 2; 1", await By("length_m", true, null));
    }

    [Fact]
    public async Task A_flag_and_a_bounded_count_stand_behind_the_columns()
    {
        await using var source = await OpenAsync();
        var query = Bridges([new Condition.IsFilled(ColumnRef.Own("id"))]) with
        {
            Flag = [new Condition.Differs(ColumnRef.Own("district"), Written("shut"))],
            CountLimit = 4,
            Limit = 6,
        };
        Assert.Equal("1 1 4; 2 1 4; 3 1 4; 4 1 4; 5 1 4; 6 0 4", Show(await RunAsync(source.Prepare(query))));
        var flagged = query with
        {
            CountLimit = null,
            Order = [new Ordering.FlaggedFirst(), new Ordering.ByColumn(ColumnRef.Own("id"), true, null)],
        };
        Assert.Equal("5 1; 4 1; 3 1; 2 1; 1 1; 6 0", Show(await RunAsync(source.Prepare(flagged))));
        Assert.Equal(
            "3",
            Show(await RunAsync(source.Prepare(new CountQuery(RecordRows.Whole(RowOrigin.Of("bridge")), [], [], 3))))
        );
        Assert.Equal(
            "2",
            Show(
                await RunAsync(
                    source.Prepare(
                        new CountQuery(
                            RecordRows.Whole(RowOrigin.Of("bridge")),
                            [],
                            [new Condition.Equal(ColumnRef.Own("district"), Given(1, FieldType.Text))],
                            30
                        )
                    ),
                    new TypedValue.Whole(0),
                    new TypedValue.Text("moor")
                )
            )
        );
    }

    [Fact]
    public async Task A_joined_row_is_there_once_or_empty_and_only_where_its_conditions_hold()
    {
        await using var source = await OpenAsync();
        var label = new Projection(new ColumnRef(1, "name"), FieldType.Text);
        var joined = Bridges([], null, 10) with
        {
            Joins = [new Join(0, RecordRows.Whole(RowOrigin.Of("district")), [("district", "slug")])],
        };
        Assert.Equal(
            "1 The Moor; 2 The Moor; 3 The Fen; 4 The Fen; 5 -; 6 Shut",
            Show(await RunAsync(source.Prepare(joined with { Columns = [.. joined.Columns, label] })))
        );
        var open = joined with
        {
            Columns = [.. joined.Columns, label],
            Joins =
            [
                joined.Joins[0] with
                {
                    Rows = RecordRows.Seen(
                        RowOrigin.Of("district"),
                        [new Condition.Equal(ColumnRef.Own("closed"), Written(false))]
                    ),
                },
            ],
        };
        Assert.Equal("5 -; 6 -", string.Join("; ", Show(await RunAsync(source.Prepare(open))).Split("; ")[^2..]));
    }

    [Fact]
    public async Task Rows_are_seen_where_another_row_is_there_that_may_be_seen()
    {
        await using var source = await OpenAsync();
        var open = RecordRows.Seen(RowOrigin.Of("district"), [new Condition.Equal(ColumnRef.Own("closed"), Written(false))]);
        var exists = new Condition.Exists(open, [(ColumnRef.Own("district"), "slug")]);
        Assert.Equal("1; 2; 3; 4", Show(await RunAsync(source.Prepare(Bridges([exists], null, 10)))));
        Assert.Equal(
            "1; 2; 3; 4; 5",
            Show(
                await RunAsync(
                    source.Prepare(
                        Bridges([new Condition.Any([new Condition.IsEmpty(ColumnRef.Own("district")), exists])], null, 10)
                    )
                )
            )
        );
        var seen = RecordRows.Seen(RowOrigin.Of("bridge"), [exists]);
        Assert.Equal("4", Show(await RunAsync(source.Prepare(new CountQuery(seen, [], [], 10)))));
        var joined = Bridges([], null, 10) with
        {
            Rows = seen,
            Joins = [new Join(0, open, [("district", "slug")])],
            Columns = [new Projection(new ColumnRef(1, "name"), FieldType.Text)],
            CountLimit = 10,
        };
        Assert.Equal("The Moor 4; The Moor 4; The Fen 4; The Fen 4", Show(await RunAsync(source.Prepare(joined))));
    }

    [Fact]
    public async Task Groups_have_their_counts_empty_ones_last()
    {
        await using var source = await OpenAsync();
        GroupQuery By(string column, GroupPart part, FieldType type) =>
            new(
                RecordRows.Whole(RowOrigin.Of("bridge")),
                [],
                [new Projection(ColumnRef.Own(column), type)],
                [],
                ColumnRef.Own(column),
                part,
                false,
                10
            );
        Assert.Equal(
            "fen 2; moor 2; shut 1; - 1",
            Show(await RunAsync(source.Prepare(By("district", GroupPart.Whole, FieldType.Text))))
        );
        Assert.Equal(
            "2019 1; 2020 2; 2021 1; - 2",
            Show(await RunAsync(source.Prepare(By("opened_on", GroupPart.Year, FieldType.Date))))
        );
        Assert.Equal(
            "1 1; 3 1; 12 2; - 2",
            Show(await RunAsync(source.Prepare(By("opened_on", GroupPart.Month, FieldType.Date))))
        );
        var labelled = By("district", GroupPart.Whole, FieldType.Any) with
        {
            Joins = [new Join(0, RecordRows.Whole(RowOrigin.Of("district")), [("district", "slug")])],
            Columns =
            [
                new Projection(ColumnRef.Own("district"), FieldType.Any),
                new Projection(new ColumnRef(1, "name"), FieldType.Text),
            ],
            Descending = true,
        };
        Assert.Equal("shut Shut 1; moor The Moor 2; fen The Fen 2; - - 1", Show(await RunAsync(source.Prepare(labelled))));
    }

    [Fact]
    public async Task Searches_in_one_query_each_give_the_first_row_of_the_first_arm_that_has_one()
    {
        await using var source = await OpenAsync();
        RecordQuery Behind(int id, bool back) =>
            Bridges(
                [
                    new Condition.Compare(
                        ColumnRef.Own("id"),
                        back ? Comparison.Less : Comparison.Greater,
                        Given(0, FieldType.Any)
                    ),
                ],
                [new Ordering.ByColumn(ColumnRef.Own("id"), back, null)],
                1
            );
        var none = Bridges([Is("id", 99)]);
        var query = source.Prepare(
            new CombinedQuery([
                [none, Behind(3, false), Bridges()],
                [Behind(3, true)],
                [none],
            ])
        );
        Assert.Equal("2 1; 4 0", string.Join("; ", Show(await RunAsync(query, new TypedValue.Whole(3))).Split("; ").Order()));
    }

    [Fact]
    public async Task A_shown_query_has_its_values_in_their_places_and_can_be_pasted()
    {
        await using var source = await OpenAsync();
        var query = source.Prepare(
            Bridges([
                new Condition.Equal(ColumnRef.Own("name"), Given(0, FieldType.Text)),
                new Condition.Compare(ColumnRef.Own("opened_on"), Comparison.AtLeast, Given(1, FieldType.Date)),
            ])
        );
        var shown = query.Shown([new TypedValue.Text("As'h\\"), new TypedValue.Date(new DateOnly(2019, 1, 1))]);
        Assert.Contains("2019-01-01", shown);
        Assert.Null(_database.Ask(shown));
        Assert.Equal(
            "1",
            _database.Ask(query.Shown([new TypedValue.Text("Ash"), new TypedValue.Date(new DateOnly(2019, 1, 1))]))
        );
    }

    [Fact]
    public async Task A_query_of_ones_own_is_described_and_filled_with_typed_values()
    {
        await using var source = await OpenAsync();
        const string Text =
            "SELECT id, name AS \"called\" FROM bridge -- ? :no 'quote\nWHERE district = :district AND name "
            + "<> ':none' ORDER BY id";
        var own = _database.Engine == "mariadb" ? Text.Replace('"', '`') : Text;
        var described = await source.DescribeQueryAsync(own, CancellationToken.None);
        Assert.Null(described.Fault);
        Assert.Equal(
            "id called, district",
            $"{string.Join(' ', described.Columns.Select(column => column.Name))}, {string.Join(' ', described.Parameters)}"
        );
        var query = new RecordQuery(
            RecordRows.Whole(new RowOrigin("own", own, [("district", Given(0, FieldType.Text))])),
            [],
            [new Projection(ColumnRef.Own("id"), FieldType.Integer), new Projection(ColumnRef.Own("called"), FieldType.Text)],
            [],
            null,
            [new Ordering.ByColumn(ColumnRef.Own("id"), false, null)],
            10
        );
        Assert.Equal("1 Ash; 2 beech", Show(await RunAsync(source.Prepare(query), new TypedValue.Text("moor"))));
        foreach (
            var bad in new[]
            {
                "SELECT nothing FROM bridge",
                "DELETE FROM bridge",
                "SELECT 1 AS a; SELECT 2 AS b",
                "  ",
                "SELECT",
            }
        )
            Assert.NotNull((await source.DescribeQueryAsync(bad, CancellationToken.None)).Fault);
    }

    [Fact]
    public async Task A_query_tells_how_it_would_be_run_with_its_values()
    {
        await using var source = await OpenAsync();
        var byKey = source.Prepare(Bridges([new Condition.Equal(ColumnRef.Own("id"), Given(0, FieldType.Integer))]));
        var plan = await byKey.ExplainAsync([new TypedValue.Whole(1)], CancellationToken.None);
        Assert.NotEmpty(plan!);
        Assert.Contains(plan!, line =>
            line.Contains("t0", StringComparison.Ordinal) || line.Contains("bridge", StringComparison.Ordinal)
        );

        // It is not run: what takes for ever is told at once.
        _database.Execute(Endless);
        var endless = source.Prepare(
            new RecordQuery(
                RecordRows.Whole(RowOrigin.Of("endless")),
                [],
                [new Projection(ColumnRef.Own("n"), FieldType.Integer)],
                [],
                null,
                [],
                10
            )
        );
        Assert.NotEmpty((await endless.ExplainAsync([], CancellationToken.None))!);
    }

    [Fact]
    public async Task A_query_is_tried_with_typed_texts_and_never_writes()
    {
        await using var source = await OpenAsync();
        var trial = await QueryTrial.RunAsync(
            source,
            "SELECT id, name FROM bridge WHERE id >= :least AND district = :district ORDER BY id",
            new Dictionary<string, string> { ["least"] = "2", ["district"] = "moor" },
            5,
            CancellationToken.None
        );
        Assert.Null(trial.Schema.Fault);
        Assert.Equal(
            [
                ["2", "beech"],
            ],
            trial.Sample!.Rows
        );
        Assert.NotEmpty((await trial.Sample.Query.ExplainAsync(trial.Arguments, CancellationToken.None))!);
        // One that is not given is null, which equals nothing.
        trial = await QueryTrial.RunAsync(
            source,
            "SELECT id FROM bridge WHERE district = :district",
            new Dictionary<string, string>(),
            5,
            CancellationToken.None
        );
        Assert.Empty(trial.Sample!.Rows);
        foreach (var bad in new[] { "DELETE FROM bridge", "SELECT 1 AS a; DELETE FROM bridge", "", "no SQL at all" })
        {
            var refused = await QueryTrial.RunAsync(source, bad, new Dictionary<string, string>(), 5, CancellationToken.None);
            Assert.NotNull(refused.Schema.Fault);
            Assert.Null(refused.Sample);
        }

        Assert.Equal("6", _database.Ask("SELECT count(*) FROM bridge"));
    }

    [Fact]
    public async Task Reading_can_never_write()
    {
        await using var source = await OpenAsync();
        foreach (
            var name in new[]
            {
                "bridge\"; DELETE FROM bridge; --",
                "bridge`; DELETE FROM bridge; -- ",
                "bridge; DELETE FROM bridge",
            }
        )
            await Assert.ThrowsAsync<SourceException>(async () =>
                await RunAsync(source.Prepare(Bridges() with { Rows = RecordRows.Whole(RowOrigin.Of(name)) }))
            );
        Assert.Equal("6", _database.Ask("SELECT count(*) FROM bridge"));
    }

    [Fact]
    public async Task A_new_row_gets_its_key_from_the_database_and_a_change_reaches_that_row_alone()
    {
        await using var source = await OpenAsync();
        long key;
        await using (var session = await source.BeginWriteAsync(CancellationToken.None))
        {
            var made = await session.WriteAsync(
                new RecordWrite.Insert(
                    "bridge",
                    [
                        new("code", new TypedValue.Text("AV-9'\\")),
                        new("name", new TypedValue.Text("New")),
                        new("opened_on", new TypedValue.Date(new DateOnly(2024, 2, 29))),
                        new("length_m", new TypedValue.Number(1234.5m)),
                        new("seen_at", new TypedValue.Moment(new DateTime(2024, 2, 29, 1, 2, 3))),
                        new("toll", new TypedValue.Boolean(true)),
                        new("weight", new TypedValue.Number(0.25m)),
                        new("tag", new TypedValue.Uuid(Guid.Empty)),
                        new("district", TypedValue.Empty.Value),
                    ],
                    ["id"]
                ),
                CancellationToken.None
            );
            Assert.Equal(1, made.Rows);
            key = ((TypedValue.Whole)made.Key[0]).Value;
            Assert.True(key > 6);
            Assert.Equal(
                1,
                (
                    await session.WriteAsync(
                        new RecordWrite.Update(
                            "bridge",
                            [new("id", new TypedValue.Whole(key))],
                            [new("name", new TypedValue.Text("Newer")), new("weight", TypedValue.Empty.Value)]
                        ),
                        CancellationToken.None
                    )
                ).Rows
            );
            Assert.True(await session.NoteAsync("token-1", "{}", CancellationToken.None));
            Assert.False(await session.NoteAsync("token-1", "{}", CancellationToken.None));
            await session.CommitAsync();
        }

        var rows = await RunAsync(
            source.Prepare(
                Bridges(
                    [Is("id", (int)key)],
                    null,
                    2,
                    ("code", FieldType.Text),
                    ("name", FieldType.Text),
                    ("opened_on", FieldType.Date),
                    ("length_m", FieldType.Decimal),
                    ("seen_at", FieldType.Timestamp),
                    ("toll", FieldType.Boolean),
                    ("weight", FieldType.Real),
                    ("tag", FieldType.Uuid)
                )
            )
        );
        Assert.Equal("AV-9'\\ Newer 2024-02-29 1234.5 2024-02-29T01:02:03 1 - 00000000-0000-0000-0000-000000000000", Show(rows));
        await using (var session = await source.BeginWriteAsync(CancellationToken.None))
        {
            Assert.Equal((true, "{}"), await session.FindNoteAsync("token-1", CancellationToken.None));
            Assert.Equal((false, null), await session.FindNoteAsync("token-2", CancellationToken.None));
            await session.ForgetNotesAsync(["token-1"], CancellationToken.None);
            Assert.Equal(
                1,
                (
                    await session.WriteAsync(
                        new RecordWrite.Delete("bridge", [new("id", new TypedValue.Whole(key))]),
                        CancellationToken.None
                    )
                ).Rows
            );
            Assert.Equal(
                0,
                (
                    await session.WriteAsync(
                        new RecordWrite.Delete("bridge", [new("id", new TypedValue.Whole(key))]),
                        CancellationToken.None
                    )
                ).Rows
            );
            await session.CommitAsync();
        }

        Assert.Equal("6", _database.Ask("SELECT count(*) FROM bridge"));
        Assert.Equal("0", _database.Ask("SELECT count(*) FROM jexa_commit"));
    }

    [Fact]
    public async Task A_row_is_found_to_be_changed_by_every_one_of_its_stored_key_values()
    {
        await using var source = await OpenAsync();
        var rows = await RunAsync(
            source.Prepare(
                Bridges(
                    [],
                    null,
                    100,
                    ("tag", FieldType.Any),
                    ("length_m", FieldType.Any),
                    ("opened_on", FieldType.Any),
                    ("toll", FieldType.Any),
                    ("seen_at", FieldType.Any)
                )
            )
        );
        await using var session = await source.BeginWriteAsync(CancellationToken.None);
        var key = Enumerable
            .Range(0, 5)
            .Select(i => new ColumnValue(
                new[] { "tag", "length_m", "opened_on", "toll", "seen_at" }[i],
                Jexa.Core.Edits.StoredValue.Of(rows[0], i)
            ))
            .ToList();
        Assert.Equal(1, (await session.WriteAsync(new RecordWrite.Update("bridge", key, key), CancellationToken.None)).Rows);
    }

    [Fact]
    public async Task Without_a_commit_nothing_was_changed()
    {
        await using var source = await OpenAsync();
        await using (var session = await source.BeginWriteAsync(CancellationToken.None))
            await session.WriteAsync(
                new RecordWrite.Delete("span", [new("bridge_id", new TypedValue.Whole(1)), new("no", new TypedValue.Whole(1))]),
                CancellationToken.None
            );
        Assert.Equal("2", _database.Ask("SELECT count(*) FROM span"));
    }

    [Fact]
    public async Task A_rule_of_the_source_is_refused_by_its_kind_and_column()
    {
        await using var source = await OpenAsync();
        await RefusedAsync(
            source,
            new RecordWrite.Update("bridge", [new("id", new TypedValue.Whole(2))], [new("code", new TypedValue.Text("av-1"))]),
            RefusalReason.Unique,
            "code"
        );
        await RefusedAsync(
            source,
            new RecordWrite.Update("bridge", [new("id", new TypedValue.Whole(2))], [new("name", TypedValue.Empty.Value)]),
            RefusalReason.Empty,
            "name"
        );
        await RefusedAsync(
            source,
            new RecordWrite.Update("bridge", [new("id", new TypedValue.Whole(2))], [new("length_m", new TypedValue.Number(-1))]),
            RefusalReason.Check,
            "length_m"
        );
        await RefusedAsync(
            source,
            new RecordWrite.Update(
                "bridge",
                [new("id", new TypedValue.Whole(2))],
                [new("district", new TypedValue.Text("nowhere"))]
            ),
            RefusalReason.Reference,
            null
        );
        await RefusedAsync(
            source,
            new RecordWrite.Delete("district", [new("slug", new TypedValue.Text("moor"))]),
            RefusalReason.Reference,
            null
        );
        await RefusedAsync(
            source,
            new RecordWrite.Update(
                "span",
                [new("bridge_id", new TypedValue.Whole(1)), new("no", new TypedValue.Whole(1))],
                [new("note", new TypedValue.Text("forbidden"))]
            ),
            RefusalReason.Own,
            null,
            "Note must not be forbidden"
        );
    }

    private static async Task RefusedAsync(
        ISource source,
        RecordWrite write,
        RefusalReason reason,
        string? column,
        string words = ""
    )
    {
        var refusal = await Assert.ThrowsAsync<RefusedException>(async () =>
        {
            await using var session = await source.BeginWriteAsync(CancellationToken.None);
            await session.WriteAsync(write, CancellationToken.None);
            await session.CommitAsync();
        });
        Assert.Equal((reason, words), (refusal.Reason, refusal.Words));
        if (column is not null)
            Assert.Contains(column, refusal.Columns);
    }

    [Fact]
    public async Task A_locked_row_waits_for_whoever_has_it_and_is_then_seen_as_it_is()
    {
        await using var source = await OpenAsync();
        var query = source.Prepare(Bridges([Is("id", 1)], [], 2, ("name", FieldType.Text)));
        var first = await source.BeginWriteAsync(CancellationToken.None);
        var rows = new RowBlock();
        rows.Reset(1);
        await first.LockAsync(query, [], rows, CancellationToken.None);
        var second = Task.Run(
            async () =>
            {
                await using var session = await source.BeginWriteAsync(CancellationToken.None);
                var seen = new RowBlock();
                seen.Reset(1);
                await session.LockAsync(query, [], seen, CancellationToken.None);
                return seen[0].Text(0);
            },
            TestContext.Current.CancellationToken
        );
        await Task.Delay(150, TestContext.Current.CancellationToken);
        Assert.False(second.IsCompleted);
        await first.WriteAsync(
            new RecordWrite.Update("bridge", [new("id", new TypedValue.Whole(1))], [new("name", new TypedValue.Text("Changed"))]),
            CancellationToken.None
        );
        await first.CommitAsync();
        await first.DisposeAsync();
        Assert.Equal("Changed", await second);
    }

    [Fact]
    public async Task A_claimed_token_is_one_sessions_alone()
    {
        await using var source = await OpenAsync();
        var first = await source.BeginWriteAsync(CancellationToken.None);
        await first.ClaimAsync("token", CancellationToken.None);
        var second = Task.Run(
            async () =>
            {
                await using var session = await source.BeginWriteAsync(CancellationToken.None);
                await session.ClaimAsync("token", CancellationToken.None);
                return await session.FindNoteAsync("token", CancellationToken.None);
            },
            TestContext.Current.CancellationToken
        );
        await Task.Delay(150, TestContext.Current.CancellationToken);
        Assert.False(second.IsCompleted);
        await first.NoteAsync("token", "{\"id\":1}", CancellationToken.None);
        await first.CommitAsync();
        await first.DisposeAsync();
        Assert.Equal((true, "{\"id\":1}"), await second);
    }

    [Fact]
    public async Task Where_nothing_is_to_be_written_nothing_is()
    {
        await using var source = await OpenAsync(writing: SourceWriting.Refused);
        Assert.NotNull((await source.DescribeAsync(CancellationToken.None)).ReadOnlyBecause);
        await Assert.ThrowsAsync<SourceException>(async () => await source.BeginWriteAsync(CancellationToken.None));
    }

    [Fact]
    public async Task A_query_that_never_ends_is_stopped_at_its_time_limit()
    {
        _database.Execute(Schema);
        _database.Execute(Endless);
        await using var source = _database.Open(0.5);
        await source.DescribeAsync(CancellationToken.None);
        var clock = Stopwatch.StartNew();
        var query = source.Prepare(
            new RecordQuery(
                RecordRows.Whole(RowOrigin.Of("endless")),
                [],
                [new Projection(ColumnRef.Own("n"), FieldType.Integer)],
                [],
                null,
                [],
                10
            )
        );
        var slow = await Assert.ThrowsAsync<SourceException>(async () => await RunAsync(query));
        Assert.Equal(SourceTrouble.TooSlow, slow.Trouble);
        Assert.InRange(clock.Elapsed.TotalSeconds, 0.4, 6);
        Assert.Equal("1; 2; 3; 4; 5; 6", await IdsAsync(source));
    }

    [Fact]
    public async Task A_query_ends_when_its_visitor_leaves()
    {
        _database.Execute(Schema);
        _database.Execute(Endless);
        await using var source = _database.Open(30);
        await source.DescribeAsync(CancellationToken.None);
        var query = source.Prepare(
            new RecordQuery(
                RecordRows.Whole(RowOrigin.Of("endless")),
                [],
                [new Projection(ColumnRef.Own("n"), FieldType.Integer)],
                [],
                null,
                [],
                10
            )
        );
        var rows = new RowBlock();
        rows.Reset(1);
        var clock = Stopwatch.StartNew();
        using var leaving = new CancellationTokenSource(TimeSpan.FromSeconds(0.3));
        await Assert.ThrowsAnyAsync<OperationCanceledException>(async () => await query.RunAsync([], rows, leaving.Token));
        Assert.InRange(clock.Elapsed.TotalSeconds, 0.2, 6);
        Assert.Equal("1; 2; 3; 4; 5; 6", await IdsAsync(source));
    }

    [Fact]
    public async Task A_table_that_changes_under_a_prepared_query_is_read_as_it_is_and_one_that_goes_is_an_error()
    {
        await using var source = await OpenAsync();
        var query = source.Prepare(
            new RecordQuery(
                RecordRows.Whole(RowOrigin.Of("span")),
                [],
                [new Projection(ColumnRef.Own("note"), FieldType.Text)],
                [],
                null,
                [new Ordering.ByColumn(ColumnRef.Own("no"), false, null)],
                10
            )
        );
        for (var i = 0; i < 3; i++)
            Assert.Equal("first; -", Show(await RunAsync(query)));
        _database.Execute("ALTER TABLE span ADD COLUMN more TEXT");
        Assert.Equal("first; -", Show(await RunAsync(query)));
        _database.Execute("DROP TABLE span");
        var gone = await Assert.ThrowsAsync<SourceException>(async () => await RunAsync(query));
        Assert.Equal(SourceTrouble.Failed, gone.Trouble);
        Assert.Equal("1; 2; 3; 4; 5; 6", await IdsAsync(source));
    }

    [Fact]
    public async Task Many_callers_at_once_each_get_their_own_row()
    {
        await using var source = await OpenAsync();
        var query = source.Prepare(Bridges([new Condition.Equal(ColumnRef.Own("id"), Given(0, FieldType.Integer))], [], 2));
        await Parallel.ForEachAsync(Enumerable.Range(0, 600), new ParallelOptions { MaxDegreeOfParallelism = 40 }, async (i, _) =>
            Assert.Equal($"{(i % 6) + 1}", Show(await RunAsync(query, new TypedValue.Whole((i % 6) + 1))))
        );
    }
}
