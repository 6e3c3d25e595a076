namespace Jexa.Service.Management;

/// <summary>A field before and after a change, as it is stored.</summary>
/// <param name="Before">Null if it was empty.</param>
/// <param name="Secret">Whether the values are secret, and only the fact of the change is known.</param>
public sealed record ChangedField(string Field, string? Before, string? After, bool Secret);
