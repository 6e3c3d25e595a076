using System.Text.RegularExpressions;
using Jexa.Core.Formats;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Edits;

/// <summary>A value that can be chosen.</summary>
/// <param name="Value">Its canonical text.</param>
public sealed record FieldChoice(string Value, string Label);
