namespace Jexa.Service.Management;

/// <summary>How to call a page, with a real sample.</summary>
/// <param name="Pattern">The URI template of its addresses (RFC 6570).</param>
/// <param name="TypeScript">With the file that <c>jexa client typescript</c> writes.</param>
/// <param name="CSharp">With the file that <c>jexa client csharp</c> writes.</param>
public sealed record CallsInfo(string Pattern, string Curl, string TypeScript, string CSharp);
