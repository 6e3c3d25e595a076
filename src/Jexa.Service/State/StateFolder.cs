using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace Jexa.Service.State;

/// <summary>Where a running service can be reached, as the command line reads it.</summary>
public sealed record ServiceAddress(string PagesUrl, string ConsoleUrl, int ProcessId);

/// <summary>
/// Jexa's own data: the token of the management API, the secret that seals list cursors, and the address of the running
/// service. The folder and its files can be read by their owner only.
/// </summary>
public sealed class StateFolder
{
    private const UnixFileMode OwnerFile = UnixFileMode.UserRead | UnixFileMode.UserWrite;
    private const int SecretLength = 32;

    public StateFolder(string path) => Path = System.IO.Path.GetFullPath(path);

    public string Path { get; }

    private string TokenFile => System.IO.Path.Combine(Path, "token");

    private string AddressFile => System.IO.Path.Combine(Path, "service.json");

    /// <summary>The folder of a service on this port when none is named: below the user's state folder.</summary>
    public static StateFolder Default(int port)
    {
        var state = Environment.GetEnvironmentVariable("XDG_STATE_HOME");
        if (string.IsNullOrEmpty(state) || !System.IO.Path.IsPathRooted(state))
        {
            var home = Environment.GetEnvironmentVariable("HOME");
            if (string.IsNullOrEmpty(home)) throw new IOException("There is no home folder to keep Jexa's data in: name one with --state DIR.");
            state = System.IO.Path.Combine(home, ".local", "state");
        }

        return new StateFolder(System.IO.Path.Combine(state, "jexa", port.ToString()));
    }

    /// <summary>Makes the folder if need be.</summary>
    /// <exception cref="IOException">It cannot be made or used.</exception>
    public void Prepare()
    {
        try
        {
            Directory.CreateDirectory(Path, OwnerFile | UnixFileMode.UserExecute);
        }
        catch (Exception refused) when (refused is UnauthorizedAccessException or IOException)
        {
            throw new IOException($"The state folder {Path} cannot be used: {refused.Message}", refused);
        }
    }

    /// <summary>The token of the management API; made at first start, kept after.</summary>
    public string Token() => Encoding.ASCII.GetString(Secret(TokenFile, () => Encoding.ASCII.GetBytes(Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(SecretLength)))));

    /// <summary>The secret that seals list cursors, so that they outlive a restart.</summary>
    public byte[] CursorSecret() => Secret(System.IO.Path.Combine(Path, "cursor-secret"), () => RandomNumberGenerator.GetBytes(SecretLength));

    /// <summary>The secret that versions of records are told apart by.</summary>
    public byte[] VersionSecret() => Secret(System.IO.Path.Combine(Path, "version-secret"), () => RandomNumberGenerator.GetBytes(SecretLength));

    /// <summary>The change log; made at first use.</summary>
    public ChangeStore Changes(TimeProvider clock) => new(System.IO.Path.Combine(Path, "changes.db"), clock);

    /// <summary>What seals forms.</summary>
    public FormSeal Seal() => FormSeal.In(Directory.CreateDirectory(System.IO.Path.Combine(Path, "keys"), OwnerFile | UnixFileMode.UserExecute));

    public void WriteAddress(ServiceAddress address) => WriteOwned(AddressFile, JsonSerializer.SerializeToUtf8Bytes(address));

    /// <summary>Removes the address if it is this process's own.</summary>
    public void RemoveAddress()
    {
        if (ReadAddress()?.ProcessId == Environment.ProcessId) File.Delete(AddressFile);
    }

    /// <summary>The address of the service that uses this folder; null where none does.</summary>
    public ServiceAddress? ReadAddress()
    {
        try
        {
            return File.Exists(AddressFile) ? JsonSerializer.Deserialize<ServiceAddress>(File.ReadAllBytes(AddressFile)) : null;
        }
        catch (Exception unreadable) when (unreadable is JsonException or IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }

    /// <summary>The token as the command line reads it; null where there is none to read.</summary>
    public string? ReadToken()
    {
        try
        {
            return File.Exists(TokenFile) ? File.ReadAllText(TokenFile) : null;
        }
        catch (Exception unreadable) when (unreadable is IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }

    private static byte[] Secret(string file, Func<byte[]> make)
    {
        if (File.Exists(file) && File.ReadAllBytes(file) is { Length: >= SecretLength } kept)
        {
            File.SetUnixFileMode(file, OwnerFile);
            return kept;
        }

        var made = make();
        WriteOwned(file, made);
        return made;
    }

    /// <summary>Writes a file whole or not at all, readable by its owner from its first moment.</summary>
    internal static void WriteOwned(string file, byte[] bytes)
    {
        var draft = $"{file}.{Environment.ProcessId}";
        var options = new FileStreamOptions { Mode = FileMode.Create, Access = FileAccess.Write, UnixCreateMode = OwnerFile };
        using (var stream = new FileStream(draft, options)) stream.Write(bytes);
        File.Move(draft, file, overwrite: true);
    }
}
