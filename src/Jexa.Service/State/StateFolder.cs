using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Jexa.Core.Files;

namespace Jexa.Service.State;

/// <summary>
/// Jexa's own data: the token of the management API, secrets, the change log, and the address of the running service. Only their
/// owner can read the folder and its files. <para> The file <c>identity</c> is written after everything else. As long as it
/// exists, nothing else may be missing, empty or from another folder. If it is, the service refuses to start, so that lost data
/// is never replaced silently. </para>
/// </summary>
public sealed class StateFolder
{
    private const int SecretLength = 32;

    public StateFolder(string path) => Path = System.IO.Path.GetFullPath(path);

    public string Path { get; }

    internal string TokenFile => System.IO.Path.Combine(Path, "token");

    private string IdentityFile => System.IO.Path.Combine(Path, "identity");

    private string LogFile => System.IO.Path.Combine(Path, "changes.db");

    private string KeyFolder => System.IO.Path.Combine(Path, "keys");

    /// <summary>Pictures that were made smaller. What is lost there is made again.</summary>
    internal string PictureFolder => System.IO.Path.Combine(Path, "pictures");

    private string AddressFile => System.IO.Path.Combine(Path, "service.json");

    /// <summary>The named folder; if none is named, that of a service on this port.</summary>
    /// <exception cref="IOException">None is named, and there is no home folder.</exception>
    public static StateFolder Of(string? path, int port) => path is null ? Default(port) : new StateFolder(path);

    /// <summary>The folder of a service on this port if none is named: below the user's state folder.</summary>
    private static StateFolder Default(int port) => new(System.IO.Path.Combine(Home(), port.ToString()));

    /// <summary>The folder of all that Jexa keeps for this user.</summary>
    /// <exception cref="IOException">There is no home folder.</exception>
    internal static string Home()
    {
        var state = Environment.GetEnvironmentVariable("XDG_STATE_HOME");
        if (string.IsNullOrEmpty(state) || !System.IO.Path.IsPathRooted(state))
        {
            var home = Environment.GetEnvironmentVariable("HOME");
            if (string.IsNullOrEmpty(home))
                throw new IOException("There is no home folder to keep Jexa's data in: name one with --state DIR.");
            state = System.IO.Path.Combine(home, ".local", "state");
        }

        return System.IO.Path.Combine(state, "jexa");
    }

    /// <summary>Opens the folder, and creates what a new folder lacks.</summary>
    /// <exception cref="IOException">
    /// It cannot be created or used, others may write to it, or something in it was lost.
    /// </exception>
    public StateContents Open(TimeProvider clock)
    {
        Prepare();

        // Several processes may be started with one new folder at the same moment.
        using var turn = StateTurn.Wait(System.IO.Path.Combine(Path, "starting"));
        var identity = ReadIdentity();
        var token = Encoding.ASCII.GetString(Secret("token", identity, () => Encoding.ASCII.GetBytes(NewToken())));
        var cursors = Secret("cursor-secret", identity, NewSecret);
        var versions = Secret("version-secret", identity, NewSecret);
        var seal = OpenSeal(identity);
        if (identity is not null && LogFault(identity) is { } fault)
            throw Lost("changes.db", fault);
        var log = new ChangeStore(LogFile, identity ?? Guid.NewGuid().ToString("N"), clock);
        if (identity is null && log.Identity is { } made)
            PlainFile.Replace(IdentityFile, Encoding.ASCII.GetBytes(made), PlainFile.OwnerOnly);
        return new StateContents(token, cursors, versions, seal, log);
    }

    private void Prepare()
    {
        try
        {
            Directory.CreateDirectory(Path, PlainFile.OwnerOnly | UnixFileMode.UserExecute);
        }
        catch (Exception refused) when (refused is UnauthorizedAccessException or IOException)
        {
            throw new IOException($"The state folder {Path} cannot be used: {refused.Message}", refused);
        }

        if ((File.GetUnixFileMode(Path) & (UnixFileMode.GroupWrite | UnixFileMode.OtherWrite)) != 0)
            throw new IOException(
                $"Others may write to the state folder {Path}, and so could change what Jexa trusts. Mend it "
                    + $"with: chmod go-w '{Path}'"
            );
    }

    private string? ReadIdentity()
    {
        if (!File.Exists(IdentityFile))
            return null;
        var text = PlainFile.ReadAllText(IdentityFile).Trim();
        return text.Length > 0
            ? text
            : throw new IOException(
                $"{IdentityFile} is empty. If the rest of the folder is whole, delete this file: it is then made anew."
            );
    }

    /// <summary>What is wrong with the change log of a folder that has an identity; null for nothing.</summary>
    private string? LogFault(string identity) =>
        FileStatus.Of(LogFile) switch
        {
            null => "is not there any more",
            { Length: 0 } => "is empty",
            _ => LogDatabase.IdentityOf(LogFile) is { } other && other != identity ? "is the log of another state folder" : null,
        };

    /// <summary>The keys for forms. They are made at once, so that forms can be shown even if the disk is full later.</summary>
    private FormSeal OpenSeal(string? identity)
    {
        var folder = Directory.CreateDirectory(KeyFolder, PlainFile.OwnerOnly | UnixFileMode.UserExecute);
        var files = folder.GetFiles("key-*.xml");
        if (identity is not null && files.Length == 0)
            throw Lost("keys", "holds no key any more");
        if (Array.Find(files, file => file.Length == 0) is { } empty)
            throw Lost($"keys/{empty.Name}", "is empty");
        var seal = FormSeal.In(folder);
        try
        {
            seal.Seal([0]);
        }
        catch (Exception refused) when (refused is System.Security.Cryptography.CryptographicException or System.Xml.XmlException)
        {
            throw new IOException($"The keys in {KeyFolder} cannot be used: {refused.Message}", refused);
        }

        return seal;
    }

    private IOException Lost(string name, string fault) =>
        new(
            $"The state folder {Path} is not whole: {name} {fault}. Put it back from a backup. Or, to go on "
                + "without what it held, delete what is left of it "
                + $"and the file {IdentityFile}: it is then made anew."
        );

    private static string NewToken() => Base64Url.EncodeToString(NewSecret());

    private static byte[] NewSecret() => RandomNumberGenerator.GetBytes(SecretLength);

    public void WriteAddress(ServiceAddress address) =>
        PlainFile.Replace(AddressFile, JsonSerializer.SerializeToUtf8Bytes(address), PlainFile.OwnerOnly);

    /// <summary>Makes and writes a new token of the management API. The old one is invalid from then on.</summary>
    public string RenewToken()
    {
        var token = NewToken();
        PlainFile.Replace(TokenFile, Encoding.ASCII.GetBytes(token), PlainFile.OwnerOnly);
        return token;
    }

    /// <summary>Removes the address, if it is this process's own.</summary>
    public void RemoveAddress()
    {
        if (ReadAddress()?.ProcessId == Environment.ProcessId)
            File.Delete(AddressFile);
    }

    /// <summary>The address of the service that uses this folder; null for none.</summary>
    public ServiceAddress? ReadAddress()
    {
        try
        {
            return File.Exists(AddressFile)
                ? JsonSerializer.Deserialize<ServiceAddress>(PlainFile.ReadAllBytes(AddressFile))
                : null;
        }
        catch (Exception unreadable) when (unreadable is JsonException or IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }

    /// <summary>The token, for the command line; null if it cannot be read.</summary>
    public string? ReadToken()
    {
        try
        {
            return File.Exists(TokenFile) ? PlainFile.ReadAllText(TokenFile) : null;
        }
        catch (Exception unreadable) when (unreadable is IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }

    private byte[] Secret(string name, string? identity, Func<byte[]> make)
    {
        var file = System.IO.Path.Combine(Path, name);
        if (!File.Exists(file))
        {
            if (identity is not null)
                throw Lost(name, "is not there any more");
            var made = make();
            PlainFile.Replace(file, made, PlainFile.OwnerOnly);
            return made;
        }

        var kept = PlainFile.ReadAllBytes(file);
        if (kept.Length < SecretLength)
            throw Lost(name, kept.Length == 0 ? "is empty" : "is too short");
        File.SetUnixFileMode(file, PlainFile.OwnerOnly);
        return kept;
    }
}
