namespace Jexa.Core.Serving;

/// <summary>An address to try a page with.</summary>
/// <param name="Kind"><c>right</c>, <c>missing</c>, <c>malformed</c>, <c>not-canonical</c>, <c>unknown</c> or
/// <c>twice</c>.</param>
/// <param name="Parameter">The parameter that it is about; null for <c>right</c>.</param>
/// <param name="Expected">The outcome that the app file declares; null if that depends on the data.</param>
public sealed record IdCase(string Kind, string? Parameter, string Address, string? Expected);
