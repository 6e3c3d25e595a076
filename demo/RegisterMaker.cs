using System.Globalization;
using Microsoft.Data.Sqlite;

namespace Jexa.Demo;

/// <summary>
/// Makes the database of the demo: the same on every machine and every day. Written beside its final place and moved there
/// whole, so that nobody ever opens half of it.
/// </summary>
public static class RegisterMaker
{
    /// <summary>Raised whenever the data changes, so that an older file is made again.</summary>
    private const int Version = 7;
    private const int VisibleBridges = 1204;
    private const int WithdrawnBridges = 10;
    private const int Bridges = VisibleBridges + WithdrawnBridges;
    private const int Inspections = 9_600;
    private const int Defects = 2_600;
    private const int Recordings = 24;

    /// <summary>Makes the file unless it is there already in this version.</summary>
    /// <param name="afresh">Makes it in any case: what was changed in it is gone.</param>
    /// <returns>Whether it was made now.</returns>
    public static bool Ensure(string file, bool afresh = false)
    {
        if (!afresh && IsCurrent(file))
            return false;
        Directory.CreateDirectory(Path.GetDirectoryName(file)!);
        var draft = $"{file}.{Environment.ProcessId}";
        try
        {
            File.Delete(draft);
            Make(draft);
            WritePhotos(draft, Path.Combine(Path.GetDirectoryName(file)!, "photos"));
            WriteSounds(Path.Combine(Path.GetDirectoryName(file)!, "recordings"));

            // What an earlier file left beside it belongs to no other.
            File.Delete(file + "-wal");
            File.Delete(file + "-shm");
            File.Delete(file + "-journal");
            File.Move(draft, file, overwrite: true);
        }
        finally
        {
            File.Delete(draft);
        }

        return true;
    }

    private static bool IsCurrent(string file)
    {
        if (!File.Exists(file))
            return false;
        try
        {
            using var connection = Open(file, SqliteOpenMode.ReadOnly);
            using var command = connection.CreateCommand();
            command.CommandText = "PRAGMA user_version";
            return Convert.ToInt64(command.ExecuteScalar(), CultureInfo.InvariantCulture) == Version;
        }
        catch (SqliteException)
        {
            return false;
        }
    }

    private static void Make(string file)
    {
        using var connection = Open(file, SqliteOpenMode.ReadWriteCreate);
        Run(connection, RegisterSchema.Text + RegisterSchema.Trial("sqlite"));
        using (var transaction = connection.BeginTransaction())
        {
            WriteDistricts(connection, transaction);
            WriteBridges(connection, transaction);
            WriteSpans(connection, transaction);
            WriteInspectors(connection, transaction);
            WriteInspections(connection, transaction);
            WritePhotoRecords(connection, transaction);
            WriteRecordings(connection, transaction);
            WriteDefects(connection, transaction);
            transaction.Commit();
        }

        Run(connection, "ANALYZE");
        Run(connection, $"PRAGMA user_version={Version}");
    }

    private const string MissingPhoto = "bridge-0003.svg";

    private static string PhotoName(int bridge) => $"bridge-{bridge:0000}.svg";

    /// <summary>A small drawing for each bridge that has a photo.</summary>
    private static void WritePhotos(string file, string folder)
    {
        Directory.CreateDirectory(Path.Combine(folder, "more"));
        using var connection = Open(file, SqliteOpenMode.ReadOnly);
        using var command = connection.CreateCommand();
        command.CommandText =
            "SELECT photo, kind, bridge_id FROM bridge WHERE photo IS NOT NULL "
            + "UNION ALL SELECT file, kind, bridge_id * 8 + photo_id % 8 FROM photo JOIN bridge USING (bridge_id)";
        using var reader = command.ExecuteReader();
        while (reader.Read())
        {
            // One drawing is missing on purpose: its page says so.
            if (reader.GetString(0) == MissingPhoto)
                continue;
            File.WriteAllText(
                Path.Combine(folder, reader.GetString(0)),
                BridgeDrawing.Of(reader.GetString(1), new SplitMix((ulong)reader.GetInt64(2)))
            );
        }
    }

    /// <summary>A sound for each recording, and a table of its loudness.</summary>
    private static void WriteSounds(string folder)
    {
        Directory.CreateDirectory(folder);
        for (var number = 1; number <= Recordings; number++)
        {
            var sound = WaterSound.Of(new SplitMix(20_260_300 + (ulong)number));
            File.WriteAllBytes(Path.Combine(folder, SoundName(number)), sound.ToWav());
            File.WriteAllText(Path.Combine(folder, LevelsName(number)), sound.ToLevels());
        }
    }

    private static string SoundName(int number) => $"water-{number:00}.wav";

    private static string LevelsName(int number) => $"water-{number:00}.csv";

    private static void WriteDistricts(SqliteConnection connection, SqliteTransaction transaction)
    {
        using var insert = Insert(connection, transaction, "district", "slug", "name", "warden", "area_km2", "note");
        foreach (var district in RegisterWords.Districts)
            Fill(insert, district.Slug, district.Name, district.Warden, district.AreaKm2, district.Note);
    }

    private static void WriteBridges(SqliteConnection connection, SqliteTransaction transaction)
    {
        var random = new SplitMix(20_260_101);
        using var insert = Insert(
            connection,
            transaction,
            "bridge",
            "code",
            "name",
            "district",
            "status",
            "kind",
            "river",
            "opened_on",
            "length_m",
            "width_m",
            "carries_t",
            "lanes",
            "toll",
            "photo",
            "toll_site",
            "story",
            "note"
        );
        for (var i = 1; i <= Bridges; i++)
        {
            var withdrawn = i % 131 == 13;
            var kind = random.Pick(RegisterWords.Kinds);
            var opened = random.Below(20) == 0 ? (DateOnly?)null : new DateOnly(1790, 1, 1).AddDays(random.Below(85_000));
            Fill(
                insert,
                $"AV-{i:0000}",
                RegisterWords.BridgeName(random),
                random.Pick(RegisterWords.Districts).Slug,
                withdrawn ? "withdrawn"
                    : random.Below(12) == 0 ? "closed"
                    : random.Below(9) == 0 ? "restricted"
                    : "open",
                kind,
                random.Pick(RegisterWords.Rivers),
                opened?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                (40 + random.Below(4200)) / 10m,
                random.Below(7) == 0 ? null : (20 + random.Below(130)) / 10.0,
                random.Below(5) == 0 ? null : 3 + random.Below(58),
                kind == "footbridge" ? 0 : 1 + random.Below(3),
                random.Below(30) == 0 ? 1 : 0,
                random.Below(8) == 0 && i != 3 ? null : PhotoName(i),
                i % 2 == 0 ? $"https://tolls.example/AV-{i:0000}" : null,
                i % 9 == 7 ? RegisterWords.Story(i, kind) : null,
                random.Below(3) == 0 ? random.Pick(RegisterWords.Notes) : null
            );
        }
    }

    private static void WriteSpans(SqliteConnection connection, SqliteTransaction transaction)
    {
        var random = new SplitMix(20_260_102);
        using var insert = Insert(
            connection,
            transaction,
            "span",
            "bridge_id",
            "span_no",
            "kind",
            "length_m",
            "height_m",
            "material"
        );
        for (var bridge = 1; bridge <= Bridges; bridge++)
        {
            var spans = 1 + random.Below(4);
            for (var number = 1; number <= spans; number++)
                Fill(
                    insert,
                    bridge,
                    number,
                    random.Pick(RegisterWords.SpanKinds),
                    (30 + random.Below(900)) / 10m,
                    random.Below(6) == 0 ? null : (15 + random.Below(400)) / 10.0,
                    random.Pick(RegisterWords.Materials)
                );
        }
    }

    /// <summary>UUIDs are stored as people's programs store them: most plainly, one in capitals, one as bytes.</summary>
    private static void WriteInspectors(SqliteConnection connection, SqliteTransaction transaction)
    {
        using var insert = Insert(
            connection,
            transaction,
            "inspector",
            "inspector_id",
            "name",
            "grade",
            "since",
            "phone",
            "email"
        );
        for (var i = 0; i < RegisterWords.Inspectors.Count; i++)
        {
            var id = InspectorId(i);
            object stored =
                i == 1 ? id.ToString("D").ToUpperInvariant()
                : i == 2 ? id.ToByteArray(bigEndian: true)
                : id.ToString("D");
            Fill(
                insert,
                stored,
                RegisterWords.Inspectors[i],
                i % 3 == 0 ? "chief" : "field",
                new DateOnly(2009, 3, 1).AddDays(i * 97).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                i % 4 == 3 ? null : $"ext. {210 + i}",
                i % 5 == 4 ? null : $"inspector.{i + 1}@register.example"
            );
        }
    }

    private static void WriteInspections(SqliteConnection connection, SqliteTransaction transaction)
    {
        var random = new SplitMix(20_260_103);
        using var insert = Insert(
            connection,
            transaction,
            "inspection",
            "bridge_id",
            "inspector_id",
            "held_on",
            "verdict",
            "score",
            "remark"
        );
        for (var i = 0; i < Inspections; i++)
        {
            var inspector = random.Below(RegisterWords.Inspectors.Count + 1);
            Fill(
                insert,
                1 + random.Below(Bridges),
                    // The one stored as bytes and the one in capitals are referred to as they are stored.
                    inspector == RegisterWords.Inspectors.Count
                        ? null
                    : inspector == 1 ? InspectorId(1).ToString("D").ToUpperInvariant()
                    : inspector == 2 ? InspectorId(2).ToByteArray(bigEndian: true)
                    : InspectorId(inspector).ToString("D"),
                new DateOnly(2014, 1, 6).AddDays(random.Below(12 * 365)).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                random.Pick(RegisterWords.Verdicts),
                random.Below(10) == 0 ? null : 20 + random.Below(81),
                random.Below(4) == 0 ? random.Pick(RegisterWords.Remarks) : null
            );
        }
    }

    private static void WritePhotoRecords(SqliteConnection connection, SqliteTransaction transaction)
    {
        var random = new SplitMix(20_260_104);
        using var insert = Insert(connection, transaction, "photo", "bridge_id", "file", "caption", "taken_on");
        for (var bridge = 1; bridge <= Bridges; bridge += 5)
        {
            var photos = 1 + random.Below(4);
            for (var number = 1; number <= photos; number++)
                Fill(
                    insert,
                    bridge,
                    $"more/bridge-{bridge:0000}-{number}.svg",
                    random.Pick(RegisterWords.Captions),
                    new DateOnly(2018, 1, 1).AddDays(random.Below(2_900)).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
                );
        }
    }

    private static void WriteRecordings(SqliteConnection connection, SqliteTransaction transaction)
    {
        var random = new SplitMix(20_260_106);
        using var insert = Insert(connection, transaction, "recording", "bridge_id", "title", "made_on", "sound", "levels");
        for (var number = 1; number <= Recordings; number++)
            Fill(
                insert,
                1 + random.Below(Bridges / 131) * 131,
                random.Pick(RegisterWords.Sounds),
                new DateOnly(2021, 1, 1).AddDays(random.Below(1_800)).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                SoundName(number),
                number % 3 == 0 ? null : LevelsName(number)
            );
    }

    private static void WriteDefects(SqliteConnection connection, SqliteTransaction transaction)
    {
        var random = new SplitMix(20_260_105);
        var spans = new List<(long Bridge, long Number)>();
        using (var command = connection.CreateCommand())
        {
            command.Transaction = transaction;
            command.CommandText = "SELECT bridge_id, span_no FROM span ORDER BY bridge_id, span_no";
            using var reader = command.ExecuteReader();
            while (reader.Read())
                spans.Add((reader.GetInt64(0), reader.GetInt64(1)));
        }

        using var insert = Insert(
            connection,
            transaction,
            "defect",
            "bridge_id",
            "span_no",
            "inspection_id",
            "kind",
            "severity",
            "reported_at",
            "mended_on"
        );
        for (var i = 0; i < Defects; i++)
        {
            var (bridge, number) = spans[random.Below(spans.Count)];
            var reported = new DateTime(2019, 1, 1, 0, 0, 0, DateTimeKind.Utc).AddMinutes(random.Below(6 * 365 * 24 * 60));
            Fill(
                insert,
                bridge,
                number,
                random.Below(3) == 0 ? null : 1 + random.Below(Inspections),
                random.Pick(RegisterWords.DefectKinds),
                1 + random.Below(4),
                reported.ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture),
                random.Below(3) == 0
                    ? null
                    : reported.AddDays(5 + random.Below(200)).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
            );
        }
    }

    private static Guid InspectorId(int number)
    {
        var random = new SplitMix(20_260_200 + (ulong)number);
        Span<byte> bytes = stackalloc byte[16];
        for (var i = 0; i < bytes.Length; i++)
            bytes[i] = (byte)random.Below(256);
        bytes[6] = (byte)((bytes[6] & 0x0f) | 0x40);
        bytes[8] = (byte)((bytes[8] & 0x3f) | 0x80);
        return new Guid(bytes, bigEndian: true);
    }

    private static SqliteConnection Open(string file, SqliteOpenMode mode)
    {
        var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder
            {
                DataSource = file,
                Mode = mode,
                Pooling = false,
            }.ConnectionString
        );
        connection.Open();
        return connection;
    }

    private static void Run(SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    private static SqliteCommand Insert(
        SqliteConnection connection,
        SqliteTransaction transaction,
        string table,
        params string[] columns
    )
    {
        var command = connection.CreateCommand();
        command.Transaction = transaction;
        command.CommandText =
            $"INSERT INTO {table} ({string.Join(", ", columns)}) VALUES "
            + $"({string.Join(", ", columns.Select(column => "$" + column))})";
        foreach (var column in columns)
            command.Parameters.Add(new SqliteParameter { ParameterName = "$" + column });
        return command;
    }

    private static void Fill(SqliteCommand insert, params object?[] values)
    {
        for (var i = 0; i < values.Length; i++)
            insert.Parameters[i].Value = values[i] is decimal exact ? (double)exact : values[i] ?? DBNull.Value;
        insert.ExecuteNonQuery();
    }
}
