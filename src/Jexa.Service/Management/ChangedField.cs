namespace Jexa.Service.Management;

/// <summary>A field before and after a change, as it is stored.</summary>
/// <param name="Before">Null for nothing.</param>
/// <param name="Secret">Only that it changed is known.</param>
public sealed record ChangedField(string Field, string? Before, string? After, bool Secret);
