namespace Jexa.Service.Management;

/// <summary>A row of a table.</summary>
/// <param name="Values">Its values as texts; an empty one is null, and a secret one is veiled.</param>
/// <param name="Addresses">The pages that it can be opened on.</param>
public sealed record TableRowInfo(IReadOnlyList<string?> Values, IReadOnlyList<RowAddressInfo> Addresses);
