namespace Jexa.Service.Contracts;

/// <summary>An address of a page with a record, and its answer.</summary>
/// <param name="Ids">The texts of its parameters.</param>
/// <param name="Json">Null if nothing is to be shown.</param>
internal sealed record PageExample(IReadOnlyList<string> Ids, ReadOnlyMemory<byte>? Json);
