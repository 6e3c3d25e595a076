using Jexa.Core.Edits;
using Jexa.Core.Keys;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

public sealed record KeptField(KeptKind Kind, SiteField Field);
