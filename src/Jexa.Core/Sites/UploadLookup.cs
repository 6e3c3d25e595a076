using Jexa.Core.Edits;
using Jexa.Core.Sources;

namespace Jexa.Core.Sites;

/// <summary>Tells whether a record names a file.</summary>
/// <param name="Named">The records whose field has a value, which is its one argument; hidden ones too.</param>
public sealed record UploadLookup(SiteRecord Record, SiteField Field, UploadPlan Plan, IPreparedQuery Named);
