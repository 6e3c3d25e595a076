namespace Jexa.Service.Contracts;

/// <summary>An address of a page that leads somewhere, and what it answers.</summary>
/// <param name="Ids">The texts of its parameters.</param>
/// <param name="Json">Null where nothing is to be shown.</param>
internal sealed record PageExample(IReadOnlyList<string> Ids, ReadOnlyMemory<byte>? Json);
