namespace Jexa.Core.Values;

/// <summary>The steps of a JSON Pointer (RFC 6901), such as <c>/pages/bridge</c>, with their two escapes.</summary>
public static class JsonPointer
{
    /// <summary>A key as a step, without the slash before it.</summary>
    public static string Escaped(string key) => key.Replace("~", "~0").Replace("/", "~1");

    /// <summary>The key that a step stands for.</summary>
    public static string Unescaped(string step) => step.Replace("~1", "/").Replace("~0", "~");

    /// <summary>The keys of a pointer; none for the whole.</summary>
    public static IEnumerable<string> Keys(string pointer) => pointer.Split('/').Skip(1).Select(Unescaped);

    /// <summary>The pointer of these keys.</summary>
    public static string Of(IEnumerable<string> keys) => string.Concat(keys.Select(key => "/" + Escaped(key)));
}
