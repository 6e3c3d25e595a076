using System.Text;
using Jexa.Core.Endpoints;
using Jexa.Core.Formats;
using Jexa.Core.Schemas;
using Jexa.Core.Values;
using static Jexa.Core.Drafts.DraftNames;

namespace Jexa.Core.Drafts;

/// <summary>An app file as a draft, and what it was unsure of.</summary>
public sealed record AppDraft(string Text, IReadOnlyList<string> Doubts, int Records, int Pages);
