namespace Pritchel.Data;

/// <summary>The record cannot be opened as it is; the message says why and what can be done.</summary>
public sealed class RecordRefusedException : Exception
{
    /// <summary>Refuses a record.</summary>
    public RecordRefusedException()
        : this("The record cannot be opened.") { }

    /// <summary>Refuses a record.</summary>
    public RecordRefusedException(string message)
        : base(message) { }

    /// <summary>Refuses a record.</summary>
    public RecordRefusedException(string message, Exception inner)
        : base(message, inner) { }
}
