namespace Jexa.Core.Edits;

/// <summary>A change as the log has it before it is made.</summary>
/// <param name="Token">The token of the form, or of the request.</param>
/// <param name="Digest">The digest of what was sent.</param>
/// <param name="Key">The record's key as it is stored, by column; as JSON.</param>
/// <param name="Id">The key as it is in addresses.</param>
/// <param name="Location">Where the visitor is redirected.</param>
/// <param name="IsNoted">Whether the source keeps a note of it.</param>
/// <param name="Undoes">The number of the change that it reverses.</param>
public sealed record ChangeIntent(
    string Token,
    string Digest,
    string Page,
    string Source,
    string Record,
    string Key,
    string Id,
    ChangeKind Kind,
    IReadOnlyList<FieldChange> Fields,
    string Location,
    bool IsNoted,
    IReadOnlyList<KeyEvent> KeyEvents,
    long? Undoes
);
