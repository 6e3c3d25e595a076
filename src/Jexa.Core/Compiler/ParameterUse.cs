using Jexa.Core.Definitions;
using Jexa.Core.Keys;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>What a parameter is compared with in a page's conditions, as they say it.</summary>
/// <param name="Key">How its text is read.</param>
/// <param name="IsEqual">The field must equal it, whatever else holds.</param>
internal sealed record ParameterUse(string Name, FieldPath Path, KeyType Key, ConditionKind Kind, bool IsEqual, Written At);
