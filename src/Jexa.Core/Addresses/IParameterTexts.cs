using Jexa.Core.Values;

namespace Jexa.Core.Addresses;

/// <summary>Gives the ID texts that fill a template, in the order of <see cref="PathTemplate.Parameters"/>.</summary>
public interface IParameterTexts
{
    /// <summary>Appends the ID text (UTF-8, not percent-encoded) of one parameter; false if it has none.</summary>
    bool TryWrite(int parameter, Utf8Buffer into);
}
