using System.Text.Json;
using Jexa.Core.Files;
using Jexa.Service.State;

namespace Jexa.Service.Workshop;

/// <summary>Keeps the working copy in the state folder, so that a restart loses nothing of it.</summary>
internal sealed class WorkshopStore(StateFolder state, string file)
{
    private sealed record Kept(string File, WorkingCopy Copy);

    private string StoreFile => Path.Combine(state.Path, "working-copy.json");

    /// <summary>The kept working copy of this app file; null if there is none, or none that can be read.</summary>
    public WorkingCopy? Read()
    {
        try
        {
            return
                File.Exists(StoreFile)
                && JsonSerializer.Deserialize<Kept>(PlainFile.ReadAllBytes(StoreFile)) is { } kept
                && kept.File == Path.GetFullPath(file)
                ? kept.Copy
                : null;
        }
        catch (Exception unreadable) when (unreadable is JsonException or IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }

    /// <summary>Keeps a working copy. One without changes and steps is removed.</summary>
    public void Write(WorkingCopy copy)
    {
        if (!copy.IsChanged && copy.Steps.Count == 0)
            File.Delete(StoreFile);
        else
            PlainFile.Replace(
                StoreFile,
                JsonSerializer.SerializeToUtf8Bytes(new Kept(Path.GetFullPath(file), copy)),
                PlainFile.OwnerOnly
            );
    }
}
