using Jexa.Core.Sources;

namespace Jexa.Service.Health;

/// <param name="Trouble">Why it does not answer; null if it does.</param>
public sealed record SourceProbe(TimeSpan Took, SourceException? Trouble);
