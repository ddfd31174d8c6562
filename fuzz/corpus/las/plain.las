~V
 VERS. 2.0 : x
 WRAP. NO :
~W
 NULL. -999.25 :
 WELL. W1 :
~C
 DEPT.FT :
 GR.API : gamma
~A
 1 2
 2 -999.25
 0.5 x
