using Jexa.Core.Sites;

namespace Jexa.Service.Uploads;

/// <summary>A file that arrived, before it is checked and named.</summary>
/// <param name="Path">Where it is now; empty if it was not stored.</param>
/// <param name="SentName">The name the visitor knows it by; untrusted.</param>
/// <param name="Fault">Why it is not taken; null if it may be.</param>
internal sealed record SentUpload(FormEntry Entry, string Path, string SentName, string Digest, string? Fault);
