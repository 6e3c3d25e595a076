namespace Jexa.Service.Browsing;

/// <summary>What the browser calls a tab.</summary>
/// <param name="Context">Its cookies and what else it keeps.</param>
/// <param name="Frame">Its outermost frame.</param>
/// <param name="Session">The connection to it.</param>
internal sealed record TabNames(string Context, string Frame, string Session);
