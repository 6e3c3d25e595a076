using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A named parameter of a record's own query.</summary>
/// <param name="Default">What fills it where no page does; null if a page must.</param>
public sealed record QueryParameter(string Name, FieldType Type, TypedValue? Default);
