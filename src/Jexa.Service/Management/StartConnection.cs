using System.Text.RegularExpressions;
using Jexa.Service.Workshop;

namespace Jexa.Service.Management;

/// <summary>A connection as the app file will have it: without a password.</summary>
/// <param name="Variable">The variable that stands for the password; null if there is none.</param>
internal sealed partial record StartConnection(string Text, string? Variable)
{
    /// <exception cref="DraftException">Something is missing, or a password stands in the connection.</exception>
    public static StartConnection Of(StartRequest request, string folder)
    {
        if (!DraftSource.Engines.Contains(request.Engine))
            throw new DraftException(
                DraftTrouble.Asked,
                $"There is no engine “{request.Engine}”: use {string.Join(", ", DraftSource.Engines)}."
            );
        var isServer = request.Engine is "postgresql" or "mariadb";
        var text = request.Connection?.Trim() ?? "";
        if (text.Length == 0)
            text = isServer
                ? Server(request)
                : throw new DraftException(
                    DraftTrouble.Asked,
                    request.Engine switch
                    {
                        "sqlite" => "Say which file the database is.",
                        "files" => "Say which folder the files are in.",
                        _ => "Say the base address of the API.",
                    }
                );
        if (Written().IsMatch(text))
            throw new DraftException(
                DraftTrouble.Asked,
                "A password would stand in the app file. Type it in its own field: it is kept apart."
            );
        if (request.Engine is "sqlite" or "files" && !Path.Exists(Path.GetFullPath(text, folder)))
            throw new DraftException(DraftTrouble.Asked, $"There is no {text} in {folder}.");
        if (string.IsNullOrEmpty(request.Password))
            return new StartConnection(text, null);
        var variable = VariableOf(text);
        return new StartConnection($"{text.TrimEnd(';')};Password=${{{variable}}}", variable);
    }

    private static string Server(StartRequest request)
    {
        if (string.IsNullOrWhiteSpace(request.Host) || string.IsNullOrWhiteSpace(request.Database))
            throw new DraftException(DraftTrouble.Asked, "Say the server's host and the database.");
        var parts = request.Host.Trim().Split(':');
        if (parts.Length > 2 || (parts.Length == 2 && !ushort.TryParse(parts[1], out _)))
            throw new DraftException(DraftTrouble.Asked, $"“{request.Host}” is no host: write a name, or name:port.");
        var words = new List<string> { $"Host={parts[0]}" };
        if (parts.Length == 2)
            words.Add($"Port={parts[1]}");
        words.Add($"Database={request.Database.Trim()}");
        if (!string.IsNullOrWhiteSpace(request.User))
            words.Add($"Username={request.User.Trim()}");
        return words.Exists(word => word.Contains(';'))
            ? throw new DraftException(DraftTrouble.Asked, "A semicolon cannot stand in these fields: write a connection string.")
            : string.Join(';', words);
    }

    /// <summary>The variable for the password, by the name of the database.</summary>
    private static string VariableOf(string text)
    {
        var name = Database().Match(text) is { Success: true } found ? found.Groups[1].Value : "source";
        return NoName().Replace(name.ToUpperInvariant(), "_") + "_PASSWORD";
    }

    [GeneratedRegex("""(?:^|;)\s*(?:password|pwd)\s*=\s*(?!\$\{)\S|://[^/@]*:[^/@]*@""", RegexOptions.IgnoreCase)]
    private static partial Regex Written();

    [GeneratedRegex("""(?:^|;)\s*database\s*=\s*([^;]+)""", RegexOptions.IgnoreCase)]
    private static partial Regex Database();

    [GeneratedRegex("[^A-Z0-9_]+|^(?=[0-9])")]
    private static partial Regex NoName();
}
