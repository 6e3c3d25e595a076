using System.Data.Common;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Microsoft.Playwright;

namespace Jexa.Service.Tests;

/// <summary>
/// Databases as others make them, drafted and served as drafted: every record of every table is saved as it stands, through its
/// form and as JSON, and nothing in the database differs.
/// </summary>
public sealed class UnchangedTests(Browser browser)
{
    /// <summary>
    /// Columns of every type, with each kind of default, and rows that hold what rules and inputs do not expect.
    /// </summary>
    private static string Schema(string engine) =>
        engine switch
        {
            "sqlite" => """
                CREATE TABLE gate (id INTEGER PRIMARY KEY, title VARCHAR(255) NOT NULL DEFAULT '', remark TEXT NOT NULL DEFAULT '', code TEXT NOT NULL,
                  passwd TEXT NOT NULL, weight DECIMAL(8,2) NOT NULL DEFAULT 0, ratio REAL, opened DATE, seen_at TIMESTAMP, is_open BOOLEAN NOT NULL DEFAULT 1,
                  maybe BOOLEAN, kind TEXT NOT NULL DEFAULT 'a' CHECK (kind IN ('a', 'b', '')), level INTEGER CHECK (level BETWEEN 1 AND 5), data BLOB,
                  twice INTEGER GENERATED ALWAYS AS (level * 2) VIRTUAL);
                INSERT INTO gate (id, title, remark, code, passwd, weight, ratio, opened, seen_at, is_open, maybe, kind, level, data) VALUES
                  (1, '', '', '', '', 0, NULL, NULL, NULL, 1, NULL, '', NULL, NULL),
                  (2, ' padded ', 'one' || char(13) || char(10) || 'two', 'C-2', 'x', 12.5, 0.1, '2024-02-29', '2024-02-29 14:30:15.125', 0, 1, 'a', 5, x'00ff'),
                  (3, '<b>&"', char(10) || 'starts with a line end', 'C-3', 'x', -0.01, 1e300, 'some day', 'yesterday', 1, 0, 'b', 1, x''),
                  (5, 'a' || char(13) || 'b', 'c' || char(13) || 'd' || char(0) || char(1) || char(65534), 'C' || char(10) || '5', 'x', 1, 0.1, NULL, '2024-02-29 14:30:15.123456', 1, NULL, 'a', 1, NULL),
                  (4, 'x', 'y', 'C-4', '', '12,5', 'much', '0000-00-00', '', 1, 0, 'a', 3, NULL);
                CREATE TABLE post (gate_id INTEGER NOT NULL REFERENCES gate, no INTEGER NOT NULL, name TEXT NOT NULL DEFAULT '', price NUMERIC NOT NULL DEFAULT 0,
                  PRIMARY KEY (gate_id, no));
                INSERT INTO post VALUES (1, 1, '', 0), (2, 1, 'left', 1.5), (2, 2, '', -3);
                """,
            "postgresql" => """
                CREATE TYPE mood AS ENUM ('', 'calm', 'windy');
                CREATE TABLE gate (id SERIAL PRIMARY KEY, title VARCHAR(255) NOT NULL DEFAULT '', remark TEXT NOT NULL DEFAULT ''::text, code CHAR(6) NOT NULL,
                  passwd TEXT NOT NULL, weight NUMERIC(8,2) NOT NULL DEFAULT 0, money NUMERIC, ratio DOUBLE PRECISION, small REAL, opened DATE, seen_at TIMESTAMP(3),
                  zoned TIMESTAMPTZ DEFAULT now(), is_open BOOLEAN NOT NULL DEFAULT true, maybe BOOLEAN, kind TEXT NOT NULL DEFAULT 'a' CHECK (kind IN ('a', 'b', '')),
                  level SMALLINT CHECK (level BETWEEN 1 AND 5), data BYTEA, mood mood NOT NULL DEFAULT '', tag UUID, extra JSONB, words TEXT[], at_time TIME, span INTERVAL,
                  addr INET, twice INTEGER GENERATED ALWAYS AS (level * 2) STORED);
                INSERT INTO gate (title, remark, code, passwd, weight, money, ratio, small, opened, seen_at, zoned, is_open, maybe, kind, level, data, mood, tag, extra, words, at_time, span, addr) VALUES
                  ('', '', '', '', 0, NULL, NULL, NULL, NULL, NULL, NULL, true, NULL, '', NULL, NULL, '', NULL, NULL, NULL, NULL, NULL, NULL),
                  (E' pad\rded ', E'one\r\ntwo', 'C-2', 'x', 12.5, 1.100, 0.1, 0.1, '2024-02-29', '2024-02-29 14:30:15.125', '2024-02-29 14:30:15.123456+00', false, true, 'a', 5, '\x00ff', 'calm',
                    '0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e54', '{"a": [1, 2]}', '{x,"y z"}', '10:20:30', '1 day 02:00', '10.0.0.1/24'),
                  ('<b>&"', E'\nstarts with a line end', 'C-3', 'x', -0.01, 'NaN', 1e300, 1e-30, 'infinity', '-infinity', 'infinity', true, false, 'b', 1, '', 'windy', NULL, '"text"', '{}', '00:00', '-1 mon', '::1'),
                  ('x', 'y', 'C-4', 'z', 99999.99, 123456789012345678901234567890.12345, 'NaN', 'Infinity', '0044-03-15 BC', '0001-01-01 00:00:00', '0001-01-01 00:00:00+00', true, false, 'a', 3, NULL, '', NULL, 'null', NULL, '24:00', NULL, NULL);
                CREATE TABLE post (gate_id INTEGER NOT NULL REFERENCES gate, no INTEGER NOT NULL, name TEXT NOT NULL DEFAULT '', PRIMARY KEY (gate_id, no));
                INSERT INTO post VALUES (1, 1, ''), (2, 1, 'left'), (2, 2, '');
                """,
            _ => """
                CREATE TABLE gate (id INT UNSIGNED AUTO_INCREMENT PRIMARY KEY, title VARCHAR(255) NOT NULL DEFAULT '', remark TEXT NOT NULL DEFAULT '', code CHAR(6) NOT NULL,
                  passwd VARCHAR(60) NOT NULL, weight DECIMAL(8,2) NOT NULL DEFAULT 0, ratio DOUBLE, small FLOAT, opened DATE, seen_at DATETIME(3), stamped TIMESTAMP NULL DEFAULT current_timestamp(),
                  is_open TINYINT(1) NOT NULL DEFAULT 1, maybe TINYINT(1), kind ENUM('', 'a', 'b') NOT NULL DEFAULT '', marks SET('x', 'y') NOT NULL DEFAULT '', level TINYINT UNSIGNED,
                  huge BIGINT UNSIGNED NOT NULL DEFAULT 0, data BLOB, bits BIT(4), in_year YEAR, at_time TIME, extra JSON, twice INT GENERATED ALWAYS AS (level * 2) VIRTUAL);
                INSERT INTO gate (title, remark, code, passwd, weight, ratio, small, opened, seen_at, stamped, is_open, maybe, kind, marks, level, huge, data, bits, in_year, at_time, extra) VALUES
                  ('', '', '', '', 0, NULL, NULL, NULL, NULL, NULL, 1, NULL, '', '', NULL, 0, NULL, NULL, NULL, NULL, NULL),
                  (' padded ', 'one\r\ntwo', 'C-2', 'x', 12.5, 0.1, 0.1, '2024-02-29', '2024-02-29 14:30:15.125', '2024-02-29 14:30:15', 0, 1, 'a', 'x,y', 255, 18446744073709551615, x'00ff', b'1010', 2024, '10:20:30', '{"a": [1, 2]}'),
                  ('<b>&"', '\nstarts with a line end', 'C-3', 'x', -0.01, 1e300, 1e-30, '9999-12-31', '1000-01-01 00:00:00', '2000-01-01 00:00:00', 2, 0, 'b', 'y', 1, 1, '', b'0', 1901, '-10:00:00', '"text"');
                SET SESSION sql_mode = '';
                INSERT INTO gate (title, remark, code, passwd, opened, seen_at, stamped) VALUES ('x', 'y', 'C-4', 'z', '0000-00-00', '0000-00-00 00:00:00', '0000-00-00 00:00:00');
                CREATE TABLE post (gate_id INT UNSIGNED NOT NULL, no INT NOT NULL, name TEXT NOT NULL DEFAULT '', PRIMARY KEY (gate_id, no), FOREIGN KEY (gate_id) REFERENCES gate (id));
                INSERT INTO post VALUES (1, 1, ''), (2, 1, 'left'), (2, 2, '');
                """,
        };

    [Theory]
    [InlineData("sqlite")]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task Every_record_of_a_drafted_database_is_saved_unchanged(string engine)
    {
        using var folder = new AppFolder();
        var server = engine switch
        {
            "postgresql" => PrivateServer.Postgres.Value,
            "mariadb" => PrivateServer.MariaDb.Value,
            _ => null,
        };
        var database = server?.NewDatabase() ?? "";
        if (server is null)
            folder.MakeDatabase(Schema(engine));
        else
            server.Execute(database, Schema(engine));
        DbConnection Open() => server is null ? folder.Open() : server.Open(database);

        var drafted = await RunningService.RunAsync(
            "draft",
            engine,
            server?.Connection(database) ?? folder.File("data.db"),
            "--out",
            folder.File("app.yaml")
        );
        Assert.True(drafted.ExitCode == 0, drafted.Error);
        var check = await RunningService.RunAsync("check", folder.File("app.yaml"));
        Assert.True(check.ExitCode == 0, check.Out);

        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"), "--log", "trouble");
        var before = Dump(Open);
        Assert.Equal(["gate", "post"], before.Keys);
        var edits = await EditsAsync(service);
        Assert.Equal(engine == "sqlite" ? 8 : 7, edits.Count);
        var page = await browser.OpenAsync(1280, ColorScheme.Light);
        using var visitor = new Visitor(service.PagesUrl);
        foreach (var edit in edits)
        {
            await page.GotoAsync(service.PagesUrl.TrimEnd('/') + edit);
            await page.Locator("form.fill button[type=submit]:not([formnovalidate]):not([aria-hidden])").First.ClickAsync();
            if (await page.Locator("form.fill").CountAsync() > 0)
                Assert.Fail($"{edit} stayed: {await InvalidAsync(page)} {await page.Locator("main").InnerTextAsync()}");
            foreach (var table in before.Keys)
                Assert.Equal($"{edit} {before[table]}", $"{edit} {Dump(Open)[table]}");

            var read = await visitor.JsonAsync(edit);
            using var body = new MemoryStream();
            await using (var json = new Utf8JsonWriter(body))
            {
                json.WriteStartObject();
                json.WritePropertyName("fields");
                read.Json.GetProperty("fields").WriteTo(json);
                json.WriteEndObject();
            }

            var saved = await visitor.PatchAsync(edit, Encoding.UTF8.GetString(body.ToArray()), read.Tag);
            Assert.True(saved.Status == 200, $"{edit}: {saved.Body}");
            foreach (var table in before.Keys)
                Assert.Equal($"{edit} {before[table]}", $"{edit} {Dump(Open)[table]}");
        }

        await page.Context.CloseAsync();

        // What is changed is saved, also where no more than a line's end is.
        var form = await visitor.FormAsync("/gates/2/edit");
        Assert.Equal(303, (await visitor.PostAsync(form.With(("remark", "onetwo")))).Status);
        Assert.Contains("onetwo", Dump(Open)["gate"]);
    }

    private static Task<string> InvalidAsync(IPage page) =>
        page.EvaluateAsync<string>(
            """
            () => [...document.querySelectorAll('input:invalid, select:invalid, textarea:invalid')].map((one) => `${one.name} ${one.value}: ${one.validationMessage}`).join('; ')
            """
        );

    /// <summary>The address of each record's edit page.</summary>
    private static async Task<List<string>> EditsAsync(RunningService service)
    {
        var edits = new List<string>();
        foreach (var list in new[] { "/gates", "/posts" })
        {
            using var listed = JsonDocument.Parse((await service.GetJsonAsync(list)).Body);
            foreach (var record in listed.RootElement.GetProperty("records").EnumerateArray())
            {
                using var shown = JsonDocument.Parse(
                    (await service.GetJsonAsync(record.GetProperty("address").GetString()!)).Body
                );
                edits.Add(
                    shown
                        .RootElement.GetProperty("links")
                        .EnumerateArray()
                        .Select(link => link.GetProperty("address").GetString()!)
                        .FirstOrDefault(address => address.EndsWith("/edit", StringComparison.Ordinal))
                        ?? throw new InvalidOperationException(shown.RootElement + service.Errors)
                );
            }
        }

        return edits;
    }

    /// <summary>Every value of every table, with its type.</summary>
    private static SortedDictionary<string, string> Dump(Func<DbConnection> open)
    {
        var tables = new SortedDictionary<string, string>();
        using var connection = open();
        foreach (var table in new[] { "gate", "post" })
        {
            using var command = connection.CreateCommand();
            command.CommandText = connection switch
            {
                Npgsql.NpgsqlConnection => $"SELECT {table}::text FROM {table} ORDER BY 1",
                MySqlConnector.MySqlConnection =>
                    $"SELECT {string.Join(", ", Columns(connection, table).Select(column => $"QUOTE({column})"))} "
                        + $"FROM {table} ORDER BY 1, 2",
                _ => $"SELECT * FROM {table} ORDER BY 1, 2",
            };
            using var reader = command.ExecuteReader();
            var text = new StringBuilder();
            while (reader.Read())
            {
                for (var i = 0; i < reader.FieldCount; i++)
                    text.Append(
                            reader.GetValue(i) switch
                            {
                                byte[] bytes => Convert.ToHexString(bytes),
                                var value => $"{value.GetType().Name} {Convert.ToString(value, CultureInfo.InvariantCulture)}",
                            }
                        )
                        .Append('|');
                text.Append('\n');
            }

            tables[table] = text.ToString();
        }

        return tables;
    }

    private static List<string> Columns(DbConnection connection, string table)
    {
        using var command = connection.CreateCommand();
        command.CommandText = $"SHOW COLUMNS FROM {table}";
        using var reader = command.ExecuteReader();
        var columns = new List<string>();
        while (reader.Read())
            columns.Add(reader.GetString(0));
        return columns;
    }
}
