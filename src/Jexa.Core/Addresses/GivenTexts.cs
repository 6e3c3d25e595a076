using Jexa.Core.Values;

namespace Jexa.Core.Addresses;

/// <summary>ID texts in the order of the template's parameters; null for a parameter that is left out.</summary>
public readonly struct GivenTexts(string?[] texts) : IParameterTexts
{
    /// <inheritdoc/>
    public bool TryWrite(int parameter, Utf8Buffer into)
    {
        if (texts[parameter] is not { } text)
            return false;
        into.Append(text);
        return true;
    }
}
