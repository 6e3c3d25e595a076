using Jexa.Core.Values;

namespace Jexa.Core.Edits;

public enum ChangeKind
{
    Added,
    Changed,
    Deleted,
}
