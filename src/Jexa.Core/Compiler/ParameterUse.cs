using Jexa.Core.Definitions;
using Jexa.Core.Keys;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>What a page's conditions compare a parameter with.</summary>
/// <param name="Key">How its text is read.</param>
/// <param name="IsEqual">Whether the field must equal it in every case.</param>
internal sealed record ParameterUse(string Name, FieldPath Path, KeyType Key, ConditionKind Kind, bool IsEqual, Written At);
