using Jexa.Core.Edits;

namespace Jexa.Core.Changes;

/// <summary>What pages that change records need besides their sources.</summary>
/// <param name="VersionKey">The key of the digests that identify versions of records, so that the digests reveal nothing.</param>
public sealed record EditServices(IChangeLog Log, IFormSeal Seal, byte[] VersionKey);
