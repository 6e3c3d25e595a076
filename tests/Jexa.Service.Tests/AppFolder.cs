using Microsoft.Data.Sqlite;

namespace Jexa.Service.Tests;

/// <summary>A folder with an app file and a database of its own; gone when disposed.</summary>
public sealed class AppFolder : IDisposable
{
    /// <summary>An app over one table, <c>thing</c>.</summary>
    public const string App = """
        app: Things
        sources: { s: { engine: sqlite, connection: data.db } }
        records: { thing: { from: s.thing, label: name } }
        pages:
          things: { path: /things, list: thing, order: [name] }
          thing: { path: "/things/{id}", detail: thing }
        """;

    public const string Schema =
        "CREATE TABLE thing (id INTEGER PRIMARY KEY, name TEXT NOT NULL); INSERT INTO thing VALUES (1, 'one'), (2, 'two');";

    public string Path { get; } = Directory.CreateTempSubdirectory("jexa-app-").FullName;

    /// <summary>Copies the demo's own HTML beside its app file.</summary>
    public static void CopyDesigns(AppFolder folder)
    {
        Directory.CreateDirectory(folder.File("designs"));
        foreach (var file in Directory.GetFiles(Repository.File("demo/designs")))
            System.IO.File.Copy(file, folder.File($"designs/{System.IO.Path.GetFileName(file)}"));
    }

    public string File(string name) => System.IO.Path.Combine(Path, name);

    public string Write(string name, string text)
    {
        System.IO.File.WriteAllText(File(name), text);
        return File(name);
    }

    public void MakeDatabase(string sql, string name = "data.db")
    {
        using var connection = Open(name);
        using var making = connection.CreateCommand();
        making.CommandText = sql;
        making.ExecuteNonQuery();
    }

    public SqliteConnection Open(string name = "data.db")
    {
        var connection = new SqliteConnection($"Data Source={File(name)};Pooling=False");
        connection.Open();
        return connection;
    }

    public void Dispose() => Directory.Delete(Path, recursive: true);
}
