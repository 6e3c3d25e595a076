namespace Jexa.Service.Audit;

/// <summary>What a browser told while it drew a page.</summary>
/// <param name="Errors">What was thrown or written as an error.</param>
/// <param name="Twice">Addresses of data that were asked for more than once.</param>
internal sealed record DrawnNotes(IReadOnlyList<string> Errors, IReadOnlyList<string> Twice);
