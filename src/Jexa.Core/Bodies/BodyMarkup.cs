using System.Text;

namespace Jexa.Core.Bodies;

/// <summary>
/// Collects the steps of a body. HTML that is the same for every visit becomes one literal, as long as it can be.
/// </summary>
internal sealed class BodyMarkup
{
    private readonly Stack<List<BodyStep>> _open = new([
        [],
    ]);
    private readonly StringBuilder _pending = new();

    /// <summary>Appends HTML as it is.</summary>
    public BodyMarkup Html(string html)
    {
        _pending.Append(html);
        return this;
    }

    /// <summary>Appends words.</summary>
    public BodyMarkup Words(string text) => Html(Encoded(text));

    public BodyMarkup Add(BodyStep step)
    {
        Flush();
        _open.Peek().Add(step);
        return this;
    }

    /// <summary>Begins steps that are taken out together by <see cref="End"/>.</summary>
    public void Begin()
    {
        Flush();
        _open.Push([]);
    }

    public IReadOnlyList<BodyStep> End()
    {
        Flush();
        return _open.Pop();
    }

    /// <summary>Appends steps that were taken out. They are a group if they are left out together.</summary>
    public void Take(IReadOnlyList<BodyStep> steps, bool isGroup)
    {
        if (isGroup)
            Add(new BodyStep.Group(steps));
        else
            foreach (var step in steps)
                if (step is BodyStep.Literal literal)
                    Html(Encoding.UTF8.GetString(literal.Html));
                else
                    Add(step);
    }

    /// <summary>Text for element content and for attributes in double quotes.</summary>
    public static string Encoded(string text)
    {
        if (text.AsSpan().IndexOfAny("&<>\"") < 0)
            return text;
        return text.Replace("&", "&amp;").Replace("<", "&lt;").Replace(">", "&gt;").Replace("\"", "&quot;");
    }

    public static byte[] Bytes(string html) => Encoding.UTF8.GetBytes(html);

    private void Flush()
    {
        if (_pending.Length == 0)
            return;
        _open.Peek().Add(new BodyStep.Literal(Bytes(_pending.ToString())));
        _pending.Clear();
    }
}
