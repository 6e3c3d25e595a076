namespace Jexa.Service.Web;

/// <summary>The form that an answer has.</summary>
public enum AnswerForm
{
    Html,
    Json,

    /// <summary>None that the request takes: 406.</summary>
    None,
}
