namespace Jexa.Core.Rewriting;

/// <summary>What a named change must know besides the text: what the app file means over its sources.</summary>
public interface IAppKnowledge
{
    /// <summary>The fields of the key of a record kind. Empty if it has none, or if its source is away.</summary>
    IReadOnlyList<string> KeyOf(string record);

    /// <summary>The field that a parameter of a page stands for. Null if it stands for none, or if that is not known.</summary>
    string? FieldOf(string page, string parameter);
}
