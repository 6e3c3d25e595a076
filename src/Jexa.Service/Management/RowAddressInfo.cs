namespace Jexa.Service.Management;

/// <summary>A page that a row can be opened on.</summary>
public sealed record RowAddressInfo(string Page, string Address);
