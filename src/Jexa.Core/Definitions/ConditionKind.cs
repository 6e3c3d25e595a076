namespace Jexa.Core.Definitions;

public enum ConditionKind
{
    Equal,
    Not,
    OneOf,
    Empty,
    Filled,

    /// <summary>Empty or filled, as the value says.</summary>
    Is,

    /// <summary>This value or a greater one.</summary>
    From,

    /// <summary>This value or a smaller one; for moments, the whole day.</summary>
    To,
    Above,
    Below,
    Contains,
    StartsWith,
    Year,
    Month,
    All,
    Any,
}
