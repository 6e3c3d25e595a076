using System.Text;
using System.Text.Json;
using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>A value that is to be written into a field.</summary>
internal sealed record Proposal(FormEntry Entry, TypedValue Value);
