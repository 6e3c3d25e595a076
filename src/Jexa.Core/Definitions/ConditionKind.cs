namespace Jexa.Core.Definitions;

/// <summary>How a condition compares a field with its values.</summary>
public enum ConditionKind
{
    /// <summary>The field has the value.</summary>
    Equal,

    /// <summary>The field has another value, or none.</summary>
    Not,

    /// <summary>The field has one of the values.</summary>
    OneOf,

    /// <summary>The field has no value, or empty text.</summary>
    Empty,

    /// <summary>The field has a value that is not empty text.</summary>
    Filled,

    /// <summary>Empty or filled, as the value says.</summary>
    Is,

    /// <summary>This value or a greater one.</summary>
    From,

    /// <summary>This value or a smaller one; for moments, the whole day.</summary>
    To,

    /// <summary>Greater than the value.</summary>
    Above,

    /// <summary>Less than the value.</summary>
    Below,

    /// <summary>The text of the field contains the value.</summary>
    Contains,

    /// <summary>The text of the field begins with the value.</summary>
    StartsWith,

    /// <summary>The field's date is in the year.</summary>
    Year,

    /// <summary>The field's date is in the month of the year; the values are the month and the year.</summary>
    Month,

    /// <summary>All inner conditions hold.</summary>
    All,

    /// <summary>At least one inner condition holds.</summary>
    Any,
}
