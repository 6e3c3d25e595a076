namespace Jexa.Core.Edits;

public enum ChangeKind
{
    Added,
    Changed,
    Deleted,
}
