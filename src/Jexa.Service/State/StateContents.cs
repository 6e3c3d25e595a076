namespace Jexa.Service.State;

/// <summary>The content of a state folder.</summary>
/// <param name="Token">The token of the management API.</param>
/// <param name="CursorSecret">Signs places in lists, so that they are valid after a restart.</param>
/// <param name="VersionSecret">The key for versions of records.</param>
/// <param name="Seal">Seals forms.</param>
/// <param name="Log">The change log. It may not be usable yet: see <see cref="ChangeStore.Trouble"/>.</param>
public sealed record StateContents(string Token, byte[] CursorSecret, byte[] VersionSecret, FormSeal Seal, ChangeStore Log);
