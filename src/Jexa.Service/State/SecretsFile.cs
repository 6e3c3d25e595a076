using System.Text;
using System.Text.RegularExpressions;
using Jexa.Core.Files;

namespace Jexa.Service.State;

/// <summary>
/// Values of variables that were typed in the console: <c>secrets.env</c> in the state folder, readable by its owner only. An
/// app file names them as <c>${NAME}</c> and never holds them. The process environment goes before.
/// </summary>
/// <remarks>Each line is <c>NAME=value</c>; the value goes to the end of the line, without quotes.</remarks>
public sealed partial class SecretsFile(StateFolder? folder)
{
    /// <summary>Where the values are kept; null if there is no state folder.</summary>
    public string? Path => folder is null ? null : System.IO.Path.Combine(folder.Path, "secrets.env");

    /// <summary>The value of a variable: that of the environment, else the kept one; null if there is none.</summary>
    public string? Value(string name) => Environment.GetEnvironmentVariable(name) ?? Kept().GetValueOrDefault(name);

    /// <summary>Keeps a value.</summary>
    /// <exception cref="IOException">It cannot be kept.</exception>
    public void Keep(string name, string value)
    {
        if (folder is null || Path is not { } path)
            throw new IOException("There is no state folder to keep it in.");
        if (!Name().IsMatch(name) || value.AsSpan().ContainsAny('\r', '\n'))
            throw new IOException("A value of one line and a name of letters, digits and _ can be kept.");
        var kept = Kept();
        kept[name] = value;
        var text = string.Concat(kept.Select(pair => $"{pair.Key}={pair.Value}\n"));
        PlainFile.Replace(path, Encoding.UTF8.GetBytes(text), PlainFile.OwnerOnly);
    }

    private Dictionary<string, string> Kept()
    {
        var kept = new Dictionary<string, string>();
        if (Path is not { } path || !File.Exists(path))
            return kept;
        foreach (var line in PlainFile.ReadAllText(path).Split('\n'))
            if (line.IndexOf('=') is > 0 and var equals)
                kept[line[..equals]] = line[(equals + 1)..].TrimEnd('\r');
        return kept;
    }

    [GeneratedRegex("^[A-Za-z_][A-Za-z0-9_]{0,63}$")]
    private static partial Regex Name();
}
