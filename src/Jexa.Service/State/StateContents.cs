namespace Jexa.Service.State;

/// <summary>What a state folder holds, opened.</summary>
/// <param name="Token">The token of the management API.</param>
/// <param name="CursorSecret">Seals the places in lists, so that they outlive a restart.</param>
/// <param name="VersionSecret">Tells versions of records apart.</param>
/// <param name="Seal">Seals forms.</param>
/// <param name="Log">The change log. It may not be usable yet: see <see cref="ChangeStore.Trouble"/>.</param>
public sealed record StateContents(string Token, byte[] CursorSecret, byte[] VersionSecret, FormSeal Seal, ChangeStore Log);
