namespace Jexa.Core.Visits;

/// <summary>
/// Who reads the answer. A person is led on (to a list, to a form); a program gets a status and the reason. How the answer is
/// written is not decided here.
/// </summary>
public enum Reader
{
    /// <summary>A person, who gets HTML and redirects.</summary>
    Person,

    /// <summary>A program, which gets JSON or another format.</summary>
    Program,
}
