/** The picture beside the way in: a narrow inlet between two cliffs, the tide part of the way up. */
export function SignInPicture() {
  return (
    <svg
      className="sign-in-picture"
      viewBox="0 0 480 800"
      preserveAspectRatio="xMidYMid slice"
      aria-hidden="true"
    >
      <rect width="480" height="800" fill="#D8E4E1" />
      <circle cx="262" cy="188" r="34" fill="#D99A00" />
      <path d="M150 520h200v280H150z" fill="#0F5C63" />
      <path d="M150 520h200v10H150zM150 560h200v5H150zM150 612h200v4H150z" fill="#8DB9B6" opacity=".55" />
      <path d="M0 92l58-30 66 22 44 96-10 70 34 92-14 84 22 96-18 108 10 170H0z" fill="#1E2B2F" />
      <path
        d="M0 240l120 22 38-12M0 372l178-30M0 486l180-60M0 604l196-82M0 716l180-86"
        stroke="#33474D"
        strokeWidth="5"
        fill="none"
      />
      <path d="M480 40l-74 26-52 60-26 82 22 66-30 92 20 78-26 88 18 110-14 158h162z" fill="#33474D" />
      <path
        d="M480 172l-130 34M480 300l-158 62M480 428l-142 18M480 560l-166-28M480 690l-150-48"
        stroke="#1E2B2F"
        strokeWidth="5"
        fill="none"
      />
      <path d="M194 520h8l-4 280h-8z" fill="#F6F3EC" />
      {[540, 580, 620, 660, 700, 740].map((y) => (
        <path key={y} d={`M186 ${y}h16`} stroke="#D99A00" strokeWidth="4" />
      ))}
    </svg>
  );
}
