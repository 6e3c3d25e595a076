using Jexa.Core.Files;

namespace Jexa.Service.State;

/// <summary>Lets one process at a time prepare a state folder.</summary>
internal static class StateTurn
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(10);
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(20);

    /// <summary>Waits for the turn. Disposing the result ends it.</summary>
    /// <exception cref="IOException">Another process has had it for too long, or the file cannot be created.</exception>
    public static FileStream Wait(string file) => Wait(file, Patience);

    /// <summary>Takes the turn at once.</summary>
    /// <exception cref="IOException">Another process has it, or the file cannot be created.</exception>
    public static FileStream Take(string file) => Wait(file, TimeSpan.Zero);

    private static FileStream Wait(string file, TimeSpan patience)
    {
        for (var waited = TimeSpan.Zero; ; waited += Pause)
        {
            try
            {
                var options = new FileStreamOptions
                {
                    Mode = FileMode.OpenOrCreate,
                    Access = FileAccess.ReadWrite,
                    Share = FileShare.None,
                    UnixCreateMode = PlainFile.OwnerOnly,
                };
                return new FileStream(file, options);
            }
            catch (IOException held) when (waited < patience && File.Exists(file) && held is not FileNotFoundException)
            {
                Thread.Sleep(Pause);
            }
        }
    }
}
