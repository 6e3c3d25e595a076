using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Changes;

/// <summary>What a form's input for a reference is to offer.</summary>
/// <param name="Text">The chosen ID; empty for none.</param>
/// <param name="Search">What the visitor looks for; null if nothing.</param>
/// <param name="IsThere">Whether the record is there already, so that its present value may stay.</param>
/// <param name="Given">The parts of the ID that the address decides.</param>
internal sealed record AskedReference(
    ReferenceChoices Reference,
    bool IsRequired,
    string Text,
    string? Search,
    bool IsThere,
    IReadOnlyList<TypedValue> Given
);
