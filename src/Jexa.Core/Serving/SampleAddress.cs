namespace Jexa.Core.Serving;

/// <summary>An address that leads to a record at this moment, and the ID texts it was built from.</summary>
public sealed record SampleAddress(string Address, IReadOnlyList<string> Ids);
