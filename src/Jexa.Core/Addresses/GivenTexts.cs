using Jexa.Core.Values;

namespace Jexa.Core.Addresses;

/// <summary>ID texts that are at hand already, in the order of the template's parameters.</summary>
public readonly struct GivenTexts(string[] texts) : IParameterTexts
{
    public bool TryWrite(int parameter, Utf8Buffer into)
    {
        into.Append(texts[parameter]);
        return true;
    }
}
