using Jexa.Core.Edits;

namespace Jexa.Core.Changes;

/// <summary>What visits that change records need besides their sources.</summary>
/// <param name="VersionKey">Keys the digests that tell versions of records apart, so that they tell nothing else.</param>
public sealed record EditServices(IChangeLog Log, IFormSeal Seal, byte[] VersionKey);
